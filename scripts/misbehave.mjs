import { EIGHT_FAILURES, MISBEHAVIOURS } from '@pragmatica/demo';
import { localhostFetch } from '@pragmatica/contract/node';
import { run, SetupError } from './setup/setup-error.mjs';

// npm run misbehave [-- PROVIDER HOW | off]: lets the demo's stand-in providers fail, as real ones do; eight failures at once when
// nothing is named. Then "npx pragmatica verify --browser" finds and names each.
await run(async () => {
  const port = process.env.PRAGMATICA_DEMO_PROVIDER_PORT ?? '4791';
  const [provider, how = ''] = process.argv.slice(2);
  const wanted =
    provider === undefined
      ? EIGHT_FAILURES
      : provider === 'off'
        ? Object.fromEntries(Object.keys(EIGHT_FAILURES).map((key) => [key, []]))
        : { [provider]: how.split(',') };
  for (const [key, all] of Object.entries(wanted)) {
    const unknown = all.find((one) => one !== '' && !MISBEHAVIOURS.includes(one));
    if (unknown !== undefined)
      throw new SetupError(
        `Nothing misbehaves as "${unknown}". Name some of these: ${MISBEHAVIOURS.join(', ')}.`,
      );
    try {
      await localhostFetch(`http://${key}.localhost:${port}/misbehave?how=${all.join()}`, { method: 'POST' });
    } catch {
      throw new SetupError(
        `The stand-in providers do not answer on port ${port}. Start them with "npm start".`,
      );
    }
    console.log(`${key.padEnd(12)} ${all.join(', ') || 'behaves again'}`);
  }
  if (provider === undefined)
    console.log(
      '\nNow: npx pragmatica verify --browser / /booking /booking/confirmation\nAfterwards: npm run misbehave -- off',
    );
});

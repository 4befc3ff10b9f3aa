// The spec reporter plus what passed only at its second try, and one closing line that continuous integration reads:
// "N passed, N failed".
const { reporters, Runner } = require('mocha');

class Reporter extends reporters.Spec {
  constructor(runner, options) {
    super(runner, options);
    const again = [];
    runner.on(Runner.constants.EVENT_TEST_RETRY, (test, error) =>
      again.push(`  ${test.fullTitle()}\n    ${String(error?.message ?? error).replaceAll('\n', '\n    ')}`),
    );
    runner.once(Runner.constants.EVENT_RUN_END, () => {
      if (again.length > 0) console.log(`Tried a second time:\n${again.join('\n')}\n`);
      const { passes, failures, pending } = this.stats;
      console.log(`${passes} passed, ${failures} failed${pending > 0 ? `, ${pending} skipped` : ''}`);
    });
  }
}

module.exports = Reporter;

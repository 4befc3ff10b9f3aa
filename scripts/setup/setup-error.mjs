/** Something that the person at the keyboard can put right. Its message says what, and how. */
export class SetupError extends Error {
  name = 'SetupError';
}

/** Runs a script's main function: a SetupError becomes its message, anything else is a bug and keeps its stack. */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    console.error(error instanceof SetupError ? `\n${error.message}\n` : error);
    process.exit(1);
  }
}

// The spec reporter plus one closing line that continuous integration reads: "N passed, N failed".
const { reporters, Runner } = require('mocha');

class Reporter extends reporters.Spec {
  constructor(runner, options) {
    super(runner, options);
    runner.once(Runner.constants.EVENT_RUN_END, () => {
      const { passes, failures, pending } = this.stats;
      console.log(`${passes} passed, ${failures} failed${pending > 0 ? `, ${pending} skipped` : ''}`);
    });
  }
}

module.exports = Reporter;

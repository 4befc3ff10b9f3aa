const { Runnable } = require('mocha');

/**
 * A time limit of a test tells what hangs from what does not; how fast something is, the benchmarks say. On a machine that is
 * slow and busy with other work everything takes several times as long, and nothing hangs: each limit counts so many times.
 */
const PATIENCE = 3;

const timeout = Runnable.prototype.timeout;
Runnable.prototype.timeout = function (...limit) {
  return limit.length === 0 ? timeout.call(this) * PATIENCE : timeout.apply(this, limit);
};

// Where each file of unit tests runs. Jest gives every file an AsyncLocalStorage of its own and never puts it away; from then on Node asks
// each of them whenever a promise is made, so that the hundredth file would take twice as long as it would alone.
import { AsyncLocalStorage } from 'node:async_hooks';
import { TestEnvironment } from 'jest-environment-node';

/**
 * Those in use since the file began.
 * @type {Set<AsyncLocalStorage<unknown>>}
 */
const inUse = new Set();
const run = Reflect.get(AsyncLocalStorage.prototype, 'run');
AsyncLocalStorage.prototype.run = function (...args) {
  inUse.add(this);
  return Reflect.apply(run, this, args);
};

export default class extends TestEnvironment {
  /** @override */
  async teardown() {
    for (const storage of inUse) storage.disable();
    inUse.clear();
    await super.teardown();
  }
}

export default () => globalThis.endStarter?.();

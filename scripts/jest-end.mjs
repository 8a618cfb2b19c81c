export default () => globalThis.endRun?.();

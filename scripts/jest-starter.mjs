// Unit tests start thousands of media programs from processes that have grown large: one starter for all of them.

export default async function begin() {
  const { beginStarter } = await import('../packages/media/dist/program/starter.js');
  globalThis.endStarter = await beginStarter();
}

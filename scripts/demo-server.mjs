import { ownServer } from './own-server.mjs';

/** Waits until a server that was started with the demo project has prepared everything in it. @returns the project's id */
export async function demoReady(base) {
  const projects = await (await fetch(`${base}/api/projects`)).json();
  const { id: project } = projects.find(({ demo }) => demo);
  for (;;) {
    const assets = await (await fetch(`${base}/api/projects/${project}/assets`)).json();
    const bad = assets.find((a) => a.state === 'failed');
    if (bad) throw new Error(`${bad.name}: ${bad.problem}`);
    if (assets.length > 0 && assets.every((a) => a.state === 'ready')) return project;
    await new Promise((later) => setTimeout(later, 200));
  }
}

/** Starts a server of its own with the demo project, and waits until everything in it is prepared. @param how see ownServer */
export async function demoServer(how = {}) {
  const server = await ownServer({ ...how, args: ['--demo', ...(how.args ?? [])] });
  return { ...server, project: await demoReady(server.base) };
}

import './unshared-garbage.ts';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { Config } from './config.ts';
import { DemoService } from './home/demo.service.ts';
import { createServer } from './server.ts';
import { beginStarter } from '@bluster/media/program/starter';

const root = resolve(import.meta.dirname, '../../..');
const { values } = parseArgs({
  options: { port: { type: 'string' }, demo: { type: 'boolean', default: false }, 'no-web': { type: 'boolean', default: false } },
});
const port = Number(values.port ?? process.env['PORT'] ?? 4870);
if (!Number.isInteger(port) || port < 0 || port > 65535) {
  console.error(`"${values.port ?? process.env['PORT']}" is not a port. Give a number from 1 to 65535.`);
  process.exit(2);
}
try {
  const data = resolve(process.env['BLUSTER_DATA'] ?? join(root, 'data'));
  const quota = Number(process.env['BLUSTER_PROJECT_GB'] ?? 200) * 1e9;
  if (!(quota > 0)) throw new Error('BLUSTER_PROJECT_GB is how many gigabytes of files a project may hold, a number above 0.');
  const web = values['no-web'] ? null : join(root, 'apps/web/dist');
  const config = new Config(data, port, web, join(root, 'demo/media'), undefined, quota);
  await beginStarter();
  const app = await createServer(config);
  await app.listen(port, config.host);
  const address = app.getHttpServer().address() as { port: number };
  const url = `http://127.0.0.1:${address.port}`;
  if (values.demo) {
    const project = await app.get(DemoService).open();
    console.log(`Bluster is up. The demo project: ${url}/projects/${project.id}/score`);
  }
  console.log(`${values.demo ? 'All projects' : 'Bluster is up'}: ${url}/  (Ctrl+C stops it)`);
  const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')) as { version: string };
  if (process.env['BLUSTER_VERBOSE']) console.log(`version ${version}, data in ${data}`);
} catch (error) {
  const { code, message } = error as { code?: string; message: string };
  console.error(
    code === 'EADDRINUSE'
      ? `Port ${port} is taken. Stop what runs there, or choose another with --port.`
      : code === 'EACCES' || code === 'EROFS'
        ? `The data folder cannot be written: ${message}. Choose another with BLUSTER_DATA.`
        : `Bluster could not start: ${message}`,
  );
  process.exit(1);
}

// Programs of Debian that Bluster needs and does not bring: found on the PATH, else installed through apt as root, else fetched
// through apt and unpacked below .bluster/debian, which needs no root and changes nothing of the machine.
// Usage: node scripts/debian-programs.mjs NAME... ; ends with 1 and a sentence where one cannot be had.
import { spawnSync } from 'node:child_process';
import { accessSync, chmodSync, constants, copyFileSync, existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { delimiter, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/* Where packages are unpacked that could not be installed; the launcher puts its bin last on the PATH. */
const UNPACKED = resolve(import.meta.dirname, '../.bluster/debian');
export const BIN = join(UNPACKED, 'bin');

/** By package: the programs in it, and where each really lies. */
const PACKAGES = {
  ffmpeg: { ffmpeg: 'usr/bin/ffmpeg', ffprobe: 'usr/bin/ffprobe' },
  chromium: { chromium: 'usr/lib/chromium/chromium' },
};

const say = (text) => process.stderr.write(`${text}\n`);

function find(program) {
  for (const folder of [...(process.env.PATH ?? '').split(delimiter), BIN]) {
    const candidate = join(folder, program);
    try {
      accessSync(candidate, constants.X_OK);
      return candidate;
    } catch {
      // not here; look in the next folder
    }
  }
  return null;
}

function apt(options, ...args) {
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const { status, stderr, error } = spawnSync('apt-get', ['-q', ...options, ...args], {
    env,
    encoding: 'utf8',
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  if (status === 0) return true;
  say(error ? 'there is no apt-get on this machine.' : `apt-get ${args[0]} failed: ${(stderr ?? '').trim().split('\n').at(-1)}`);
  return false;
}

function installAsRoot(name) {
  say(`installing Debian's package ${name} ...`);
  return apt([], 'update') && apt([], 'install', '-y', '--no-install-recommends', name);
}

/** Folders below one that hold shared libraries. */
function libraryFolders(folder) {
  const entries = readdirSync(folder, { withFileTypes: true });
  const here = entries.some((e) => /\.so(\.|$)/.test(e.name)) ? [folder] : [];
  return [...here, ...entries.filter((e) => e.isDirectory()).flatMap((e) => libraryFolders(join(folder, e.name)))];
}

function writeStarter(root, program, at) {
  const libraries = ['usr/lib', 'lib'].map((l) => join(root, l)).filter(existsSync);
  const paths = libraries.flatMap(libraryFolders).join(':');
  const fonts = join(root, 'etc/fonts');
  writeFileSync(
    join(BIN, program),
    [
      '#!/bin/sh',
      `LD_LIBRARY_PATH='${paths}'\${LD_LIBRARY_PATH:+:$LD_LIBRARY_PATH}; export LD_LIBRARY_PATH`,
      `[ -d /etc/fonts ] || { FONTCONFIG_PATH='${fonts}'; export FONTCONFIG_PATH; }`,
      `exec '${join(root, at)}' "$@"`,
      '',
    ].join('\n'),
  );
  chmodSync(join(BIN, program), 0o755);
}

/** Fetches a package and what it needs that the machine has not, and unpacks them in a folder of their own. */
function unpack(name) {
  say(`fetching Debian's package ${name} into .bluster (no root here, so it is not installed) ...`);
  const root = join(UNPACKED, name);
  const work = join(UNPACKED, 'apt');
  rmSync(root, { recursive: true, force: true });
  for (const folder of [root, BIN, `${work}/lists/partial`, `${work}/cache/archives/partial`]) mkdirSync(folder, { recursive: true });
  // A copy, so that apt sees what is installed and locks nothing of the machine's.
  copyFileSync('/var/lib/dpkg/status', `${work}/status`);
  const own = [
    ...['-o', 'Debug::NoLocking=1', '-o', 'APT::Sandbox::User=', '-o', `Dir::State=${work}`, '-o', `Dir::State::status=${work}/status`],
    ...['-o', `Dir::State::Lists=${work}/lists`, '-o', `Dir::Cache=${work}/cache`],
  ];
  const archives = `${work}/cache/archives`;
  const fetched = apt(own, 'update') && apt(own, 'install', '-y', '--no-install-recommends', '--reinstall', '--download-only', name);
  const packages = fetched ? readdirSync(archives).filter((f) => f.endsWith('.deb')) : [];
  const whole = packages.every((file) => spawnSync('dpkg-deb', ['-x', join(archives, file), root]).status === 0);
  rmSync(work, { recursive: true, force: true });
  if (packages.length === 0 || !whole) return false;
  for (const [program, at] of Object.entries(PACKAGES[name])) writeStarter(root, program, at);
  return true;
}

/**
 * Path of one of Debian's programs; null where it cannot be had, after a sentence that says what to do.
 * BLUSTER_NO_INSTALL=1 leaves the machine as it is even where we are root.
 */
export function ensureProgram(name) {
  const missing = () => Object.keys(PACKAGES[name]).some((program) => !find(program));
  if (missing() && process.env.BLUSTER_NO_INSTALL !== '1' && process.getuid?.() === 0) installAsRoot(name);
  if (missing() && process.platform === 'linux' && existsSync('/var/lib/dpkg/status')) unpack(name);
  if (!missing()) return find(name);
  say(`Bluster needs ${name}. Install it with your system's package manager (Debian: apt-get install ${name}), then try again.`);
  return null;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) process.exitCode = process.argv.slice(2).every(ensureProgram) ? 0 : 1;

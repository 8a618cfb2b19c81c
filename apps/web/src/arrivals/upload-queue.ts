import { ROUTES } from '@bluster/wire/routes';
import { Upload as TusUpload, defaultOptions, type PreviousUpload } from 'tus-js-client';
import { mutate } from 'swr';
import { create } from 'zustand';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { Turns } from './turns.ts';
import { mayHelp, sentenceOf } from './upload-answers.ts';
import { expectAsset } from './use-arrivals.ts';

export type UploadRole = 'song' | 'footage';

/** A file on its way in. */
export interface Upload {
  readonly key: number;
  readonly role: UploadRole;
  readonly name: string;
  /** bytes */
  readonly size: number;
  readonly part: number;
  /** stalled: it is being sent, but the server does not answer, and is asked again by and by */
  readonly state: 'waiting' | 'sending' | 'stalled' | 'failed';
  readonly problem: string | null;
  /** whether trying once more may help */
  readonly again: boolean;
}

/** A file that was cut off when its page was closed; dropped in again, it goes on from there. */
export interface CutOff {
  readonly key: string;
  readonly name: string;
  readonly url: string | null;
}

interface Queue {
  readonly uploads: readonly Upload[];
  readonly cutOff: readonly CutOff[];
  add: (projectId: string, files: readonly File[], role: UploadRole) => void;
  dismiss: (key: number) => void;
  retry: (key: number) => void;
  findCutOff: (projectId: string) => Promise<void>;
  forget: (cutOff: CutOff) => Promise<void>;
}

const AT_ONCE = 2;
/** Files that are dropped together follow each other by parts of a millisecond. */
const PLACES_A_MS = 1000;
const CHUNK_BYTES = 16 * 2 ** 20;
const RETRY_AFTER_MS = [0, 500, 1500, 4000, 10_000, 30_000];
const ENDPOINT = ROUTES.uploads();

interface Waiting {
  readonly key: number;
  readonly projectId: string;
  readonly file: File;
  readonly role: UploadRole;
  /** in which order it was brought in, over all pages */
  readonly place: number;
}

let nextKey = 1;
const known = new Map<number, Waiting>();
const sending = new Map<number, TusUpload>();

/** Whether a file can be read as it was when it was chosen; browsers refuse one that has changed since. */
const isAsItWas = (file: File): Promise<boolean> =>
  file
    .slice(0, 1)
    .arrayBuffer()
    .then(() => true)
    .catch(() => false);

/** What was refused is not gone on with: the browser forgets where it was. */
async function forgetPlace(upload: TusUpload): Promise<void> {
  for (const { urlStorageKey } of await upload.findPreviousUploads()) await defaultOptions.urlStorage?.removeUpload(urlStorageKey);
}

/** Files being brought in by the tus protocol, a few at a time; goes on when another view is looked at. */
export const useUploads = create<Queue>((set, get) => {
  const change = (key: number, to: Partial<Upload>): void =>
    set(({ uploads }) => ({ uploads: uploads.map((u) => (u.key === key ? { ...u, ...to } : u)) }));
  const drop = (key: number): void => {
    known.delete(key);
    set(({ uploads }) => ({ uploads: uploads.filter((u) => u.key !== key) }));
  };
  const ended = (key: number): void => {
    sending.delete(key);
    turns.ended(key);
  };
  const send = (job: Waiting, anew = false): void => {
    const { key, projectId, file, role, place } = job;
    const failChanged = (): void => {
      void upload.abort(true).catch(() => undefined);
      const problem = `"${file.name}" changed while it was read: it is still being recorded or copied. Bring it in again when that is done.`;
      change(key, { state: 'failed', problem, again: false });
      ended(key);
    };
    const upload: TusUpload = new TusUpload(file, {
      endpoint: ENDPOINT,
      metadata: { project: projectId, role, filename: file.name, place: String(place) },
      chunkSize: CHUNK_BYTES,
      retryDelays: RETRY_AFTER_MS,
      removeFingerprintOnSuccess: true,
      // The same file in the same project, whenever it comes again.
      fingerprint: (f) => Promise.resolve(['bluster', projectId, role, f.name, f.size, f.lastModified].join('-')),
      onProgress: (sent, total) => {
        if (sending.has(key)) change(key, { part: total ? sent / total : 1, state: 'sending' });
      },
      onShouldRetry: (error) => {
        // Where it was the file that could not be read, no try will do better.
        void isAsItWas(file).then((as) => as || !sending.has(key) || failChanged());
        const again = mayHelp(error);
        if (again) change(key, { state: 'stalled' });
        return again;
      },
      onError: (error) => {
        void isAsItWas(file).then((as) => {
          if (!sending.has(key)) return;
          if (!as) return failChanged();
          const sentence = sentenceOf(error, file.name);
          if (!sentence.again) void forgetPlace(upload);
          change(key, { state: 'failed', ...sentence });
          ended(key);
        });
      },
      onSuccess: ({ lastResponse }) => {
        const body = lastResponse.getBody();
        if (!body && !anew) {
          // It had come whole before, and the answer that names the asset was lost. Sent anew, it is known by its bytes and kept once.
          send(job, true);
          return;
        }
        void (async () => {
          // Before it is seen among the files: whoever takes it into the montage knows that it was asked for here.
          if (body) expectAsset(JSON.parse(body) as Asset);
          // Its work has begun: until it is asked for, nobody asks how far it is.
          await Promise.all([mutate(ROUTES.assets(projectId)), mutate(ROUTES.jobs(projectId))]);
          drop(key);
          ended(key);
          await get().findCutOff(projectId);
        })();
      },
    });
    sending.set(key, upload);
    change(key, { state: 'sending', problem: null });
    void upload.findPreviousUploads().then(([previous]) => {
      if (!sending.has(key)) return;
      if (previous && !anew) upload.resumeFromPreviousUpload(previous);
      upload.start();
    });
  };
  const turns = new Turns<Waiting>(AT_ONCE, (job) => send(job));
  return {
    uploads: [],
    cutOff: [],
    add: (projectId, files, role) => {
      const now = Date.now() * PLACES_A_MS;
      const fresh = files.map((file, i) => ({ key: nextKey++, projectId, file, role, place: now + i }));
      for (const job of fresh) known.set(job.key, job);
      const listed = fresh.map(({ key, file }): Upload => ({
        key,
        role,
        name: file.name,
        size: file.size,
        part: 0,
        state: 'waiting',
        problem: null,
        again: false,
      }));
      const names = new Set(files.map((f) => f.name));
      set(({ uploads, cutOff }) => ({ uploads: [...uploads, ...listed], cutOff: cutOff.filter((c) => !names.has(c.name)) }));
      turns.add(fresh);
    },
    dismiss: (key) => {
      turns.withdraw(key);
      const upload = sending.get(key);
      // What was sent is of no use to anyone now.
      void upload?.abort(true).catch(() => undefined);
      drop(key);
      if (upload) ended(key);
    },
    retry: (key) => {
      const job = known.get(key);
      if (!job) return;
      change(key, { state: 'waiting', problem: null });
      turns.add([job]);
    },
    findCutOff: async (projectId) => {
      const all: PreviousUpload[] = (await defaultOptions.urlStorage?.findAllUploads()) ?? [];
      const underWay = new Set(get().uploads.map((u) => u.name));
      const cutOff = all
        .filter(({ metadata }) => metadata['project'] === projectId && !underWay.has(metadata['filename'] ?? ''))
        .map(({ metadata, urlStorageKey, uploadUrl }) => ({ key: urlStorageKey, name: metadata['filename'] ?? '', url: uploadUrl }));
      set({ cutOff });
    },
    forget: async ({ key, url }) => {
      set(({ cutOff }) => ({ cutOff: cutOff.filter((c) => c.key !== key) }));
      await defaultOptions.urlStorage?.removeUpload(key);
      if (url) await TusUpload.terminate(url).catch(() => undefined);
    },
  };
});

import { decoderWords, openDecoder } from '../film/open-decoder.ts';
import type { PictureReader } from '../film/frame-reader.ts';
import { SharedFrames } from '../film/shared-frames.ts';

/** All that a reader gives, in memory of its own. */
async function allOf(reader: PictureReader): Promise<Buffer[]> {
  const frames: Buffer[] = [];
  for (let frame = await reader.next(); frame; frame = await reader.next()) frames.push(Buffer.from(frame));
  return frames;
}

/**
 * Decoders whose frames are kept: whoever asks for the same ones of the same file again starts no program. The files must not change
 * while they are used.
 */
export function rememberedDecoders(): typeof openDecoder {
  const known = new Map<string, Promise<Buffer[]>>();
  return (montage, run, decoder, files, room, signal) => {
    const key = decoderWords(montage, run, decoder, files).join(' ');
    const frames = known.get(key) ?? allOf(openDecoder(montage, run, decoder, files, new SharedFrames(), signal));
    known.set(key, frames);
    let count = 0;
    return {
      get count() {
        return count;
      },
      async next() {
        const frame = (await frames)[count];
        if (!frame) return null;
        count++;
        // What is given may be written over when it was used.
        const given = room.lend(frame.length);
        frame.copy(given);
        return given;
      },
      close: () => undefined,
    };
  };
}

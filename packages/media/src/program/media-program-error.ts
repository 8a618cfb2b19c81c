/** A media program that failed. The message says it in words that people use, without a full stop. */
export class MediaProgramError extends Error {
  /** what the system says where there was no room on the disk */
  readonly code: 'ENOSPC' | undefined;

  constructor(
    message: string,
    /** the program's own last words, for the log */
    readonly said = '',
  ) {
    super(message);
    this.code = /no space left on device|disk quota exceeded/i.test(`${message} ${said}`) ? 'ENOSPC' : undefined;
  }
}

/** One that was stopped because what it wrote grew larger than it may. */
export class OutgrownError extends MediaProgramError {
  constructor() {
    super('what comes of it grows larger than it may');
  }
}

/** What a program that ended badly has said on its way, as an error. @param otherwise what is said where its words mean nothing to people */
export function failureOf(text: string, otherwise = 'the decoder gave up on it'): MediaProgramError {
  // Figures of progress come last and say nothing; paths are of this machine.
  const lines = text.split('\n').filter((line) => line.trim() !== '' && !/^[a-z0-9_]+=/.test(line));
  const said = (lines.at(-1) ?? '').replace(/\/\S*\//g, '').slice(0, 300);
  const hungry = /cannot allocate memory|out of memory/i.test(text);
  return new MediaProgramError(hungry ? 'it asks for more memory than a file is given' : otherwise, said);
}

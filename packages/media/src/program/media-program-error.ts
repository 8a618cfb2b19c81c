/** A media program that failed. The message is what it last said. */
export class MediaProgramError extends Error {}

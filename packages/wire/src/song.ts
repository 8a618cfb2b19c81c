import { IsInt, IsNumber, IsString, Matches, Min } from 'class-validator';

/** The short name of a song that ships. */
export const SHIPPED_SONG_ID = /^[a-z][a-z-]{0,60}$/;

/** A made-up song that ships with Bluster, for those who have footage and no song. */
export class ShippedSongAnswer {
  @Matches(SHIPPED_SONG_ID) readonly id: string;
  @IsString() readonly title: string;
  /** what it is like, in a few words */
  @IsString() readonly mood: string;
  /** beats a minute */
  @IsNumber() @Min(1) readonly bpm: number;
  /** beats in a bar */
  @IsInt() @Min(1) readonly metre: number;
  /** seconds */
  @IsNumber() @Min(0) readonly length: number;
}

/** Asks for a song that ships as the song of a project. */
export class TakeSongRequest {
  @Matches(SHIPPED_SONG_ID, { message: '"song" is the short name of a song that ships, as the list of them gives it' })
  readonly song: string;
}

import { Transform } from 'class-transformer';
import { IsBoolean, IsInt, IsNumber, IsOptional, IsString, Length, MaxLength, Min } from 'class-validator';

const trimmed = ({ value }: { value: unknown }): unknown => (typeof value === 'string' ? value.trim() : value);

/** Asks for a project's montage to be kept as a template: without its pictures. */
export class KeepTemplateRequest {
  @Transform(trimmed)
  @IsString({ message: 'A template needs a name' })
  @Length(1, 120, { message: 'A name has 1 to 120 characters' })
  readonly name: string;
  /** what it is for */
  @IsOptional()
  @Transform(trimmed)
  @IsString()
  @MaxLength(300, { message: 'What it is for is told in 300 characters at the most' })
  readonly note?: string;
  /** whether its song goes along */
  @IsBoolean({ message: '"song" is true or false: whether the song goes along' }) readonly song: boolean;
}

/** A template: one that ships with Bluster, or one that was kept. */
export class TemplateAnswer {
  /** a UUID; a short name for those that ship */
  @IsString() readonly id: string;
  @IsString() readonly name: string;
  @IsString() readonly note: string;
  @IsBoolean() readonly ships: boolean;
  /** ms since 1970; null for those that ship */
  @IsOptional() @IsInt() readonly savedAt: number | null;
  /** of the montage, seconds */
  @IsNumber() @Min(0) readonly length: number;
  @IsInt() @Min(0) readonly slots: number;
  /** of a frame, pixels */
  @IsInt() readonly width: number;
  @IsInt() readonly height: number;
  /** whether its song is in it */
  @IsBoolean() readonly hasSong: boolean;
}

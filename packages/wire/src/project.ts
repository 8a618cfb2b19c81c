import { Transform } from 'class-transformer';
import { IsBoolean, IsInt, IsNumber, IsOptional, IsString, IsUUID, Length, Min } from 'class-validator';

/** Asks for a project of a name, or for another name. */
export class ProjectNameRequest {
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString({ message: 'A project needs a name' })
  @Length(1, 120, { message: 'A name has 1 to 120 characters' })
  readonly name: string;
}

/** A project. Times are ms since 1970. */
export class ProjectAnswer {
  @IsUUID() readonly id: string;
  @IsString() readonly name: string;
  @IsInt() readonly createdAt: number;
  @IsInt() readonly updatedAt: number;
  @IsBoolean() readonly demo: boolean;
}

/** A project as the list shows it. */
export class ProjectSummaryAnswer {
  @IsUUID() readonly id: string;
  @IsString() readonly name: string;
  @IsInt() readonly updatedAt: number;
  @IsBoolean() readonly demo: boolean;
  /** whose small picture stands for it; null where there is none, or none yet */
  @IsOptional() @IsUUID() readonly coverAssetId: string | null;
  /** whether its small picture is being made */
  @IsBoolean() readonly coverComing: boolean;
  /** of the montage, seconds */
  @IsNumber() @Min(0) readonly length: number;
  @IsInt() @Min(0) readonly slots: number;
  @IsInt() @Min(0) readonly filled: number;
  /** why it cannot be opened, a sentence; null where it can */
  @IsOptional() @IsString() readonly problem: string | null;
}

/** A deleted project that can still be brought back. */
export class DeletedProjectAnswer {
  @IsUUID() readonly id: string;
  @IsString() readonly name: string;
  @IsInt() readonly deletedAt: number;
  /** when it is removed for good, ms since 1970 */
  @IsInt() readonly goneAt: number;
}

import { Type } from 'class-transformer';
import { IsArray, IsIn, IsOptional, IsString, ValidateNested } from 'class-validator';
import { ProjectAnswer } from './project.ts';

/** Whether the files of a project go along with it. */
export class BundleQuery {
  @IsOptional()
  @IsIn(['with', 'without'], { message: '"media" is either "with" or "without"' })
  readonly media?: 'with' | 'without';
}

/** A bundle that was opened as a new project. */
export class OpenedBundleAnswer {
  @ValidateNested() @Type(() => ProjectAnswer) readonly project: ProjectAnswer;
  /** names of the files that were not in it; they are taken when they are brought in by these names */
  @IsArray() @IsString({ each: true }) readonly missing: readonly string[];
}

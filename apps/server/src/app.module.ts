import { BadRequestException, type DynamicModule, Global, Module, ValidationPipe } from '@nestjs/common';
import { APP_FILTER, APP_INTERCEPTOR, APP_PIPE } from '@nestjs/core';
import { MulterModule } from '@nestjs/platform-express';
import { TypeOrmModule } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { AssetEntity } from './assets/asset.entity.ts';
import { AssetFiles, LARGEST_UPLOAD } from './assets/asset-files.ts';
import { AssetsController } from './assets/assets.controller.ts';
import { AssetPreparation } from './assets/asset-preparation.ts';
import { MediaProbes } from './assets/media-probes.ts';
import { AssetsService } from './assets/assets.service.ts';
import { ResumableUploads } from './assets/resumable-uploads.ts';
import { FollowingController } from './following/following.controller.ts';
import { ChangesService } from './changes/changes.service.ts';
import { Config } from './config.ts';
import { MIGRATIONS } from './database/migrations.ts';
import { AnswerWhenKept } from './database/answer-when-kept.ts';
import { prepareDatabase, WriteAheadLog } from './database/write-ahead-log.ts';
import { DressingEntity } from './dressings/dressing.entity.ts';
import { DressingsController } from './dressings/dressings.controller.ts';
import { DressingsService } from './dressings/dressings.service.ts';
import { ExportsController } from './exports/exports.controller.ts';
import { ExportFiles } from './exports/export-files.ts';
import { LoudnessService } from './exports/loudness.service.ts';
import { ExportsService } from './exports/exports.service.ts';
import { JobEntity } from './jobs/job.entity.ts';
import { JobsController } from './jobs/jobs.controller.ts';
import { JobsService } from './jobs/jobs.service.ts';
import { DiskRoom } from './keeping/disk-room.ts';
import { FolderLock } from './keeping/folder-lock.ts';
import { KeepingService } from './keeping/keeping.service.ts';
import { KeptVersionEntity } from './montages/kept-version.entity.ts';
import { MontageEntity } from './montages/montage.entity.ts';
import { MontagesController } from './montages/montages.controller.ts';
import { MontagesService } from './montages/montages.service.ts';
import { DocumentReader } from './montages/reading/document-reader.ts';
import { DemoService } from './home/demo.service.ts';
import { ProjectEntity } from './projects/project.entity.ts';
import { ProjectsController } from './home/projects.controller.ts';
import { HomeService } from './home/home.service.ts';
import { ShippedSongs } from './home/shipped-songs.ts';
import { SongsController } from './home/songs.controller.ts';
import { ProjectsService } from './projects/projects.service.ts';
import { ProblemFilter } from './http/problem.filter.ts';
import { BundlesController } from './bundles/bundles.controller.ts';
import { BundlesService } from './bundles/bundles.service.ts';
import { ShippedTemplates } from './templates/shipped-templates.ts';
import { TemplatesController } from './templates/templates.controller.ts';
import { TemplatesService } from './templates/templates.service.ts';
import { problemsOf } from './http/validation.ts';
import multer from 'multer';

const ENTITIES = [ProjectEntity, MontageEntity, KeptVersionEntity, AssetEntity, JobEntity, DressingEntity];

@Global()
@Module({})
export class AppModule {
  static with(config: Config, lock: FolderLock): DynamicModule {
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRoot({
          type: 'better-sqlite3',
          database: config.databaseFile,
          entities: ENTITIES,
          migrations: MIGRATIONS,
          migrationsRun: true,
          enableWAL: true,
          prepareDatabase,
        }),
        TypeOrmModule.forFeature(ENTITIES),
        MulterModule.register({
          storage: multer.diskStorage({
            destination: config.incomingFolder,
            filename: (_request, _file, done) => done(null, randomUUID()),
          }),
          limits: { fileSize: LARGEST_UPLOAD, files: 1, fields: 4, fieldNameSize: 100 },
        }),
      ],
      controllers: [
        ProjectsController,
        SongsController,
        AssetsController,
        MontagesController,
        JobsController,
        ExportsController,
        BundlesController,
        DressingsController,
        TemplatesController,
        FollowingController,
      ],
      providers: [
        { provide: Config, useValue: config },
        { provide: FolderLock, useValue: lock },
        { provide: APP_INTERCEPTOR, useClass: AnswerWhenKept },
        { provide: APP_FILTER, useClass: ProblemFilter },
        {
          provide: APP_PIPE,
          useValue: new ValidationPipe({
            whitelist: true,
            forbidNonWhitelisted: true,
            transform: true,
            exceptionFactory: (errors) => new BadRequestException(problemsOf(errors) ?? 'The request is not what it should be.'),
          }),
        },
        AssetFiles,
        MediaProbes,
        AssetsService,
        AssetPreparation,
        BundlesService,
        ChangesService,
        DemoService,
        DiskRoom,
        DocumentReader,
        DressingsService,
        ExportFiles,
        ExportsService,
        JobsService,
        KeepingService,
        LoudnessService,
        MontagesService,
        HomeService,
        ShippedSongs,
        ProjectsService,
        ResumableUploads,
        ShippedTemplates,
        TemplatesService,
        WriteAheadLog,
      ],
    };
  }
}

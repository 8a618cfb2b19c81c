// Prints a description of the server's interface for programs: OpenAPI 3, from the controllers themselves.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { Config } from './config.ts';
import { createServer } from './server.ts';

const folder = mkdtempSync(join(tmpdir(), 'bluster-describe-'));
const app = await createServer(new Config(folder, 0, null));
await app.init();
try {
  const document = SwaggerModule.createDocument(app, new DocumentBuilder().setTitle('Bluster').build());
  // What requests and answers hold is said by the same rules that they are checked by.
  const schemas = validationMetadatasToSchemas() as NonNullable<typeof document.components>['schemas'];
  document.components = { ...document.components, schemas: { ...document.components?.schemas, ...schemas } };
  process.stdout.write(`${JSON.stringify(document, null, 2)}\n`);
} finally {
  await app.close();
  rmSync(folder, { recursive: true, force: true });
}

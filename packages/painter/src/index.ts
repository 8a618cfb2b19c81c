export * from './paint.ts';
export { TITLE_FACES, paintTitle } from './paint-title.ts';

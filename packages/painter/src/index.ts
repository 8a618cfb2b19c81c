export * from './paint.ts';

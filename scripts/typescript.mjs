// Lets Node run the project's TypeScript, and import .sql files as text as the build does (`?raw`).
import { register as registerHook } from 'node:module';
import { register as registerTsx } from 'tsx/esm/api';

registerTsx();
registerHook('./raw-files.mjs', import.meta.url);

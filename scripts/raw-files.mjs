import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';

/** Module hook: `import text from './x.sql?raw'` gives the file as a string. */
export async function resolve(specifier, context, next) {
  if (!specifier.endsWith('?raw')) return next(specifier, context);
  return { url: new URL(specifier, context.parentURL).href, format: 'module', shortCircuit: true };
}

export async function load(url, context, next) {
  if (!url.endsWith('?raw')) return next(url, context);
  const text = await readFile(fileURLToPath(url.slice(0, -'?raw'.length)), 'utf8');
  return { format: 'module', shortCircuit: true, source: `export default ${JSON.stringify(text)};` };
}

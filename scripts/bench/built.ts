import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'vite';

/** A module built as the application is, and loaded. */
export async function built<T>(entry: string, { ssr = false, minify = false } = {}): Promise<T> {
  const name = entry.replace(/^.*\/|\.ts$/g, '');
  const outDir = join('node_modules', '.cache', 'early-bell-bench', name);
  await build({
    configFile: false,
    logLevel: 'silent',
    publicDir: false,
    build: {
      ...{ outDir, emptyOutDir: true, minify },
      ...(ssr ? { ssr: entry } : { lib: { entry, formats: ['es'], fileName: name } })
    }
  });
  return (await import(pathToFileURL(join(process.cwd(), outDir, `${name}.js`)).href)) as T;
}

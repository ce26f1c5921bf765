import { build } from 'vite';
await build({ configFile: false, logLevel: 'warn', publicDir: false, build: { outDir: 'node_modules/.cache/zz', emptyOutDir: true, minify: false, ssr: '/tmp/prof/prev.ts' } });
const { run } = await import('/work/main/node_modules/.cache/zz/prev.js');
await run(Number(process.argv[2] ?? 10000));

import { defineConfig } from 'vite';

/**
 * The parts that run as processes or threads of their own, each as one file that Node starts at once: the server around the built application, the stand-ins, the laying out of the demo and
 * of very many tasks, the thread in which is done what takes long, and one life of the engine for the tests that kill it. Packages stay
 * outside.
 */
export default defineConfig({
  publicDir: false,
  build: {
    ssr: true,
    outDir: 'build/parts',
    emptyOutDir: true,
    minify: false,
    reportCompressedSize: false,
    rollupOptions: {
      input: {
        server: 'src/entry.ts',
        'stand-ins': 'standin/main.ts',
        demo: 'demo/main.ts',
        thread: 'src/lib/server/threads/worker.ts',
        'many-tasks': 'tests/support/lay-out-many.ts',
        life: 'tests/crash/child.ts'
      },
      output: { entryFileNames: '[name].js', chunkFileNames: 'shared/[name].js' }
    }
  }
});

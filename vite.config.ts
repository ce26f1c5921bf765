import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  test: {
    include: ['{src,standin,demo,scripts}/**/*.test.ts', 'tests/{reference,server}/**/*.test.ts'],
    // The suite spawns servers and opens databases: files run beside each other, on two cores.
    maxWorkers: 2,
    // Loading the application costs seconds: the files of a process share what they load, and keep nothing there from one test to the next.
    isolate: false,
    // Generous, since a busy machine is no failure: nothing here measures speed.
    testTimeout: 300_000
  }
});

#!/usr/bin/env node
// Starts the command line: lets Node run the TypeScript, then hands over.
import '../../scripts/typescript.mjs';

await import('./main.ts');

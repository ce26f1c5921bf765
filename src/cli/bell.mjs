#!/usr/bin/env node
// Starts the command line: registers the TypeScript loader, then runs it.
import { register } from 'tsx/esm/api';

register();
await import('./main.ts');

// Starts the parts of the application as processes: the stand-ins, and the server itself. They have been built.
import { spawn } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ROOT } from './setup.mjs';

/** Whether a port of this machine can be listened on. */
export function isFree(port) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, () => probe.close(() => resolve(true)));
  });
}

/** Below the ports that a system gives to whoever asks for any of them (Linux: from 32768 on; IANA, RFC 6335, section 6: from 49152 on). */
const OWN_PORTS = { from: 20_000, until: 32_000 };

/** A port of this machine that nothing listens on now, and that nobody is given by chance before it is listened on. */
export async function freePort() {
  for (let tries = 0; tries < 100; tries++) {
    const port = randomInt(OWN_PORTS.from, OWN_PORTS.until);
    if (await isFree(port)) return port;
  }
  throw new Error(`Of the ports from ${OWN_PORTS.from} to ${OWN_PORTS.until} none of a hundred is free.`);
}

/** Starts the stand-ins on ports of their own choosing; resolves with them when they listen. `returnPort` is where mail that bounced is reported. */
export async function startStandIn(dir) {
  const returnPort = await freePort();
  const args = ['build/parts/stand-ins.js', '--dir', dir, '--returns', String(returnPort)];
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    stdio: ['pipe', 'pipe', 'inherit']
  });
  const line = await firstLine(child, 'The stand-ins');
  return { child, returnPort, ...JSON.parse(line) };
}

/** What a server is started with so that it sends to the stand-ins, and shows what they have. */
export function standInEnv({ smtpPort, httpPort, returnPort, text, textToken, chat, chatHook }) {
  return {
    EARLY_BELL_SMTP_PORT: String(smtpPort),
    EARLY_BELL_RETURN_PORT: String(returnPort),
    EARLY_BELL_TEXT_URL: `${text}/send`,
    EARLY_BELL_TEXT_TOKEN: textToken,
    EARLY_BELL_CHAT_URL: chatHook,
    // The settings may name the stand-ins too.
    EARLY_BELL_INSIDE: '127.0.0.1',
    EARLY_BELL_POST_ROOM: `http://127.0.0.1:${httpPort}`,
    EARLY_BELL_POST_ROOM_TEXT: text,
    EARLY_BELL_POST_ROOM_CHAT: chat
  };
}

/** Lays the demo out in a folder, unless that has been done. */
export function layOutDemo({ data, at, standIn, origin }) {
  const args = ['build/parts/demo.js', '--data', data, '--at', at];
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...standInEnv(standIn), ORIGIN: origin }
  });
  return new Promise((resolve, reject) => {
    child.once('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`The demo could not be laid out (exit code ${code}).`))
    );
  });
}

/** Starts the built server, on this machine alone unless `env` has a HOST; resolves when it answers. */
export async function startServer({ port, env }) {
  const origin = `http://localhost:${port}`;
  const child = spawn(process.execPath, ['build/parts/server.js'], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      HOST: '127.0.0.1',
      PORT: String(port),
      ORIGIN: origin,
      ...env
    }
  });
  let output = '';
  child.stdout.on('data', (chunk) => {
    output += chunk;
    process.stdout.write(chunk);
  });
  let ended = false;
  child.once('exit', () => (ended = true));
  for (;;) {
    if (ended) throw new Error('The server did not start; what it said stands above.');
    const answer = await fetch(`${origin}/sign-in`).catch(() => null);
    if (answer?.ok) return { child, origin, output: () => output };
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** Ends child processes with this one, the server before the stand-in. */
export function endWith(children) {
  let ending = false;
  const end = () => {
    if (ending) return;
    ending = true;
    const [first, ...rest] = children;
    first.once('exit', () => {
      for (const child of rest) child.kill('SIGTERM');
      process.exit(0);
    });
    first.kill('SIGTERM');
  };
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
  for (const child of children) {
    child.once('exit', (code) => {
      if (ending) return;
      process.stderr.write(`A part of the application ended by itself (exit code ${code}).\n`);
      for (const other of children) other.kill('SIGTERM');
      process.exitCode = 1;
    });
  }
}

export function dataPath(...parts) {
  return join(ROOT, 'data', ...parts);
}

function firstLine(child, name) {
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (chunk) => {
      text += chunk;
      const end = text.indexOf('\n');
      if (end >= 0) resolve(text.slice(0, end));
    });
    child.once('exit', (code) => reject(new Error(`${name} did not start (exit code ${code}).`)));
  });
}

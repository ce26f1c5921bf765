import { ServerLife } from '../../tests/crash/server-life.ts';
import { StandIns } from '../../tests/crash/stand-ins.ts';
import type { Container } from '../../src/lib/server/container.ts';
import { openApart } from '../open-apart.ts';

/**
 * Runs the built server over a workspace that is made for it, with its first person signed in.
 * @param at where its clock stands, ms
 * @param fill makes what is in it
 */
export async function withBuiltServer<T>(
  folder: string,
  at: number,
  fill: (container: Container) => void | Promise<void>,
  work: (server: ServerLife) => Promise<T>
): Promise<T> {
  const container = openApart(folder, at);
  await fill(container);
  await container.stop();
  const standIns = await StandIns.open();
  const server = await ServerLife.over(folder, standIns.places);
  try {
    await server.start();
    await server.signIn(1);
    return await work(server);
  } finally {
    await server.stop();
    await standIns.close();
  }
}

import { createContainer, type Container } from '../src/lib/server/container.ts';
import type { ContainerOptions } from '../src/lib/server/options.ts';

/**
 * Opens a workspace by itself, without its web server and where no mail server listens, for benches and kills.
 * @param startAtMs where the clock of a new one stands, ms
 */
export function openApart(
  dataDir: string,
  startAtMs?: number,
  options: Partial<ContainerOptions> = {}
): Container {
  return createContainer({
    dataDir,
    demo: true,
    ...(startAtMs === undefined ? {} : { startAtMs }),
    mail: { host: '127.0.0.1', port: 1 },
    origin: 'http://early-bell.test',
    logLevel: 'silent',
    ...options
  });
}

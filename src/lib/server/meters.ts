import { Counter, Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';
import type { WorkspaceClock } from './engine/clock.ts';
import type { Stores } from './store/all.ts';

/** What the application counts of itself, as OpenMetrics text. No name of a task or a person is among it. */
export class Meters {
  readonly #registry = new Registry();
  readonly #slices;
  readonly #attempts;
  #ofProcess = false;

  constructor(stores: Stores, clock: WorkspaceClock, nextInstant: () => number | null) {
    // OpenMetrics 1.0: https://github.com/prometheus/OpenMetrics, "Exposition format"
    this.#registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE as never);
    const registers = [this.#registry];
    this.#slices = new Histogram({
      name: 'early_bell_slice_seconds',
      help: 'Time of one transaction of the engine',
      labelNames: ['kind'],
      buckets: [0.001, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 1],
      registers
    });
    this.#attempts = new Counter({
      name: 'early_bell_attempts',
      help: 'Attempts to deliver a message, by channel and result',
      labelNames: ['channel', 'end'],
      registers
    });
    const gauge = (name: string, help: string, read: () => number) =>
      new Gauge({
        ...{ name, help, registers },
        collect() {
          this.set(read());
        }
      });
    gauge('early_bell_deliveries_unfinished', 'Deliveries waiting or being sent', () =>
      stores.outbox.unfinished()
    );
    gauge('early_bell_tasks_stale', 'Tasks waiting to be planned again', () => stores.plan.staleCount());
    gauge('early_bell_seconds_behind', 'Delay of the next ring that is due', () => {
      const next = nextInstant();
      return next === null ? 0 : Math.max(0, (clock.now() - next) / 1_000);
    });
  }

  /** One transaction of the engine, by what it was about. */
  slice(kind: string, ms: number): void {
    this.#slices.observe({ kind }, ms / 1_000);
  }

  /** One attempt to deliver, by how it ended. */
  attempt(channel: string, end: string): void {
    this.#attempts.inc({ channel, end });
  }

  /** @returns the text, and its content type */
  async text(): Promise<{ text: string; contentType: string }> {
    // What is read of the process itself goes on being watched: only once somebody asks.
    if (!this.#ofProcess) collectDefaultMetrics({ register: this.#registry, prefix: 'early_bell_' });
    this.#ofProcess = true;
    const text = await this.#registry.metrics();
    // What has not been measured yet is left out: a reader of metrics takes NaN for a broken source.
    const measured = text.split('\n').filter((line) => line.startsWith('#') || !line.includes(' NaN'));
    return { text: measured.join('\n'), contentType: this.#registry.contentType };
  }
}

import { describe, expect, it } from 'vitest';
import type { RuleForecastView } from '$lib/view/models.ts';
import type { RuleBasis } from '$lib/view/rule-basis.ts';
import type { FromWorker, ToWorker } from '$lib/worker/rule-outlook.worker.ts';
import { OutlookClient, type OutlookPort, type OutlookWorker } from './outlook.ts';

const view = (sentence: string) => ({ sentence }) as unknown as RuleForecastView;
const written = (name: string) => ({ name, definition: {} as never });
const BASIS = {} as RuleBasis;

/** A worker that answers when it is told to. */
class FakeWorker implements OutlookWorker {
  readonly heard: ToWorker[] = [];
  ended = false;
  readonly #listeners: Record<string, ((event: never) => void)[]> = {};
  addEventListener = ((type: string, listener: (event: never) => void) => {
    (this.#listeners[type] ??= []).push(listener);
  }) as OutlookWorker['addEventListener'];
  postMessage(message: unknown): void {
    this.heard.push(message as ToWorker);
  }
  terminate(): void {
    this.ended = true;
  }
  says(data: FromWorker): void {
    this.#tell('message', { data });
  }
  breaks(message: string): void {
    this.#tell('error', { message });
  }
  asked(): number[] {
    return this.heard.flatMap((one) => (one.is === 'compute' ? [one.id] : []));
  }
  #tell(type: string, event: unknown): void {
    for (const listener of this.#listeners[type] ?? []) listener(event as never);
  }
}

function client(port: Partial<OutlookPort> = {}) {
  const workers: FakeWorker[] = [];
  const asked: unknown[] = [];
  const outlook = new OutlookClient({
    basis: () => Promise.resolve(BASIS),
    ask(one) {
      asked.push(one);
      return Promise.resolve({ view: view('of the server') });
    },
    begin() {
      const worker = new FakeWorker();
      workers.push(worker);
      return Promise.resolve(worker);
    },
    ...port
  });
  return { outlook, workers, asked };
}
const settled = () => new Promise((resolve) => setTimeout(resolve));

describe('what a rule would do is computed', () => {
  it('in the browser, over a basis that is read once', async () => {
    const { outlook, workers, asked } = client();
    const first = outlook.compute(written('a'));
    await settled();
    workers[0]!.says({ id: 1, view: view('a') });
    expect(await first).toMatchObject({ view: { sentence: 'a' } });
    const second = outlook.compute(written('b'));
    await settled();
    workers[0]!.says({ id: 2, view: view('b') });
    expect(await second).toMatchObject({ view: { sentence: 'b' } });
    expect(workers).toHaveLength(1);
    expect(workers[0]!.heard.map(({ is }) => is)).toEqual(['basis', 'compute', 'compute']);
    expect(asked).toEqual([]);
  });

  it('for the newest alone: what is overtaken is dropped', async () => {
    const { outlook, workers } = client();
    const first = outlook.compute(written('a'));
    const second = outlook.compute(written('b'));
    expect(await first).toBeNull();
    await settled();
    expect(workers[0]!.asked()).toEqual([2]);
    workers[0]!.says({ id: 2, view: view('b') });
    expect(await second).toMatchObject({ view: { sentence: 'b' } });
  });

  it('by the server where there are too many tasks, or no worker can begin', async () => {
    const tooMany = client({ basis: () => Promise.resolve(null) });
    expect(await tooMany.outlook.compute(written('a'))).toMatchObject({
      view: { sentence: 'of the server' }
    });
    const none = client({ begin: () => Promise.reject(new Error('not here')) });
    expect(await none.outlook.compute(written('a'))).toMatchObject({ view: { sentence: 'of the server' } });
  });
});

describe('what cannot be computed', () => {
  it('is said, by the worker or the server', async () => {
    const { outlook, workers } = client();
    const asked = outlook.compute(written('a'));
    await settled();
    workers[0]!.says({ id: 1, fault: 'It rings too often.' });
    expect(await asked).toEqual({ id: 1, fault: 'It rings too often.' });
    const byServer = client({
      basis: () => Promise.resolve(null),
      ask: () => Promise.resolve({ fault: 'The server does not answer.' })
    });
    expect(await byServer.outlook.compute(written('a'))).toEqual({ fault: 'The server does not answer.' });
  });

  it('because the worker broke off is computed by another when it is tried again', async () => {
    const { outlook, workers } = client();
    const asked = outlook.compute(written('a'));
    await settled();
    workers[0]!.breaks('out of memory');
    expect(await asked).toMatchObject({ fault: 'out of memory' });
    expect(workers[0]!.ended).toBe(true);
    const again = outlook.compute(written('a'));
    await settled();
    expect(workers).toHaveLength(2);
    workers[1]!.says({ id: 2, view: view('a') });
    expect(await again).toMatchObject({ view: { sentence: 'a' } });
  });
});

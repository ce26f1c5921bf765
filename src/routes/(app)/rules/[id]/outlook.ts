import { askJson, readJson } from '$lib/ui/form/send.ts';
import type { RuleForecastView } from '$lib/view/models.ts';
import type { RuleBasis, WrittenRule } from '$lib/view/rule-basis.ts';
import type { FromWorker, ToWorker } from '$lib/worker/rule-outlook.worker.ts';

/** The worker of the browser, as far as it is asked. */
export type OutlookWorker = Pick<Worker, 'postMessage' | 'terminate' | 'addEventListener'>;

/** What it would do, or why that could not be computed. */
export type Computed = { view: RuleForecastView } | { fault: string };

/** Where it is asked: the server, and a worker of the browser. */
export interface OutlookPort {
  basis: () => Promise<RuleBasis | null>;
  /** Computed by the server, where there are too many tasks for a browser. */
  ask: (written: unknown) => Promise<Computed>;
  begin: () => Promise<OutlookWorker>;
}

/** The port of a rule's page. */
export function portOf(ruleId: number): OutlookPort {
  return {
    basis: () => readJson<RuleBasis>(`/rules/${ruleId}/basis`),
    async ask(written) {
      const said = (await askJson<RuleForecastView>(`/rules/${ruleId}/forecast`, written))!;
      return said.ok ? { view: said.answer } : { fault: said.message };
    },
    async begin() {
      const { default: Worker } = await import('$lib/worker/rule-outlook.worker.ts?worker');
      return new Worker();
    }
  };
}

/**
 * Computes what a rule would do as it is typed: in a worker of the browser, or by the server where there are too many tasks or the worker could not
 * begin. A request that is overtaken by a newer one is dropped.
 */
export class OutlookClient {
  readonly #port: OutlookPort;
  #worker: OutlookWorker | null = null;
  #openedAt = 0;
  #opening: Promise<void> | null = null;
  #latest = 0;
  #waiting: { id: number; settle: (answer: FromWorker) => void } | null = null;

  constructor(port: OutlookPort) {
    this.#port = port;
  }

  /** Reads the basis anew: something else in the workspace has changed. */
  forget(): void {
    this.#opening = null;
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
  }

  /** @returns null when a newer request has overtaken this one */
  async compute(written: WrittenRule & Record<string, unknown>): Promise<Computed | null> {
    const id = ++this.#latest;
    await (this.#opening ??= this.#open());
    if (id !== this.#latest) return null;
    const { name, definition } = written;
    const answer = this.#worker
      ? await this.#send(this.#worker, id, { name, definition })
      : await this.#port.ask(written);
    return id === this.#latest ? answer : null;
  }

  async #open(): Promise<void> {
    const basis = await this.#port.basis();
    if (!basis) return this.close();
    try {
      this.#worker ??= await this.#begin();
      this.#openedAt = performance.now();
      this.#worker.postMessage({ is: 'basis', basis } satisfies ToWorker);
    } catch {
      // A browser that lets no worker begin: the server computes it instead.
      this.close();
    }
  }

  async #begin(): Promise<OutlookWorker> {
    const worker = await this.#port.begin();
    worker.addEventListener('message', ({ data }: MessageEvent<FromWorker>) => {
      if (this.#waiting?.id === data.id) this.#waiting.settle(data);
    });
    // One that has broken off says no more: whoever waits is told, and the next request begins another.
    worker.addEventListener('error', ({ message }: ErrorEvent) => {
      if (this.#worker !== worker) return;
      this.close();
      this.forget();
      const { id, settle } = this.#waiting ?? {};
      if (id !== undefined) settle!({ id, fault: message || 'The browser stopped the calculation.' });
    });
    return worker;
  }

  #send(worker: OutlookWorker, id: number, written: WrittenRule): Promise<FromWorker> {
    return new Promise((settle) => {
      this.#waiting = { id, settle };
      const elapsedMs = performance.now() - this.#openedAt;
      // What Svelte keeps is a proxy, which cannot be sent.
      const plain = JSON.parse(JSON.stringify(written)) as WrittenRule;
      worker.postMessage({ is: 'compute', id, written: plain, elapsedMs } satisfies ToWorker);
    });
  }
}

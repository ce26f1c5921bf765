import { expect, test } from 'vitest';
import { LONG_SLICE_MS, SHORT_SLICE_MS } from './engine/turn.ts';
import { Requests } from './requests.ts';

let steady = 0;
const machine = { steadyMs: () => steady };

function held() {
  let end!: (value: string) => void;
  const ended = new Promise<string>((resolve) => (end = resolve));
  return { end, ended };
}

test('work in slices waits until what came in has been answered, and goes on then', async () => {
  const requests = new Requests(machine);
  const [first, second] = [held(), held()];
  const order: string[] = [];
  const answers = [first, second].map(({ ended }) => requests.answering(() => ended));
  const through = requests.letOthersIn().then(() => order.push('slice'));
  first.end('one');
  order.push(await answers[0]!);
  second.end('two');
  order.push(await answers[1]!);
  await through;
  expect(order).toEqual(['one', 'two', 'slice']);
});

test('it goes on though a request does not end', async () => {
  const requests = new Requests(machine);
  const endless = held();
  const answer = requests.answering(() => endless.ended);
  await requests.letOthersIn();
  endless.end('late');
  expect(await answer).toBe('late');
});

test('a request that fails is no longer waited for', async () => {
  const requests = new Requests(machine);
  await expect(requests.answering(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
  const order: string[] = [];
  const through = requests.letOthersIn().then(() => order.push('slice'));
  await new Promise((resolve) => setImmediate(resolve));
  await through;
  expect(order).toEqual(['slice']);
});

test('slices are short while somebody reads, and for a while after', async () => {
  const requests = new Requests(machine);
  expect(requests.sliceMs()).toBe(LONG_SLICE_MS);
  const page = held();
  const answer = requests.answering(() => page.ended);
  steady += 60_000;
  expect(requests.sliceMs()).toBe(SHORT_SLICE_MS);
  page.end('page');
  await answer;
  await requests.answering(() => 'another');
  steady += 1_000;
  expect(requests.sliceMs()).toBe(SHORT_SLICE_MS);
  steady += 2_000;
  expect(requests.sliceMs()).toBe(LONG_SLICE_MS);
});

import { expect, test } from 'vitest';
import { Requests } from './requests.ts';

function held() {
  let end!: (value: string) => void;
  const ended = new Promise<string>((resolve) => (end = resolve));
  return { end, ended };
}

test('work in slices waits until what came in has been answered, and goes on then', async () => {
  const requests = new Requests();
  const [first, second] = [held(), held()];
  const order: string[] = [];
  const answers = [first, second].map(({ ended }) => requests.answering(() => ended));
  const through = requests.letThrough().then(() => order.push('slice'));
  first.end('one');
  order.push(await answers[0]!);
  second.end('two');
  order.push(await answers[1]!);
  await through;
  expect(order).toEqual(['one', 'two', 'slice']);
});

test('it goes on though a request does not end', async () => {
  const requests = new Requests();
  const endless = held();
  const answer = requests.answering(() => endless.ended);
  await requests.letThrough();
  endless.end('late');
  expect(await answer).toBe('late');
});

test('a request that fails is no longer waited for', async () => {
  const requests = new Requests();
  await expect(requests.answering(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
  const order: string[] = [];
  const through = requests.letThrough().then(() => order.push('slice'));
  await new Promise((resolve) => setImmediate(resolve));
  await through;
  expect(order).toEqual(['slice']);
});

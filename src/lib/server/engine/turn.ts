/** Everything else that is ready comes to its turn. */
export function aTurn(): Promise<void> {
  return new Promise((resolve) => setImmediate(resolve));
}

/** An address with one parameter said otherwise, from the first page on unless it is the page; an empty value takes it out. */
export function withParameter(url: URL, name: string, value: string): string {
  const parameters = new URLSearchParams(url.search);
  parameters.delete('before');
  parameters.delete('page');
  if (value) parameters.set(name, value);
  else parameters.delete(name);
  return `${url.pathname}${parameters.size > 0 ? `?${parameters}` : ''}`;
}

/** What is asked for in an address, without where its page begins. */
export function askedIn(url: URL): string {
  return new URL(withParameter(url, 'before', ''), url).search;
}

/** Things with a name as choices of an address. */
export function named(
  all: readonly { id: number; name: string }[],
  nameless: string
): { value: string; label: string }[] {
  return all.map(({ id, name }) => ({ value: String(id), label: name || nameless }));
}

/** The title of a page with how many notices are new before it: “(3) Tasks · Early Bell”. */
export function countedTitle(title: string, count: number): string {
  const plain = title.replace(/^\(\d+\+?\) /, '');
  if (count === 0) return plain;
  return `(${count > 99 ? '99+' : count}) ${plain}`;
}

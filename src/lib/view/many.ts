/** A count and what is counted: “1 bell moves”, “1,635 bells move”. */
export function many(count: number, one: string, more: string): string {
  return `${count.toLocaleString('en')} ${count === 1 ? one : more}`;
}

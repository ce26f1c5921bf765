/** The names under which something is listed, in their order: a list that is written out whole has no others. */
export function namesOf<T extends object>(listed: T): (keyof T & string)[] {
  return Object.keys(listed) as (keyof T & string)[];
}

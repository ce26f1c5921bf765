/** Where somebody has been last in this browser. */
const KEY = 'early-bell:recent';
const MOST = 6;

interface Visit {
  href: string;
  name: string;
}

function read(): Visit[] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '[]') as Visit[];
  } catch {
    // A browser that keeps nothing, or what was kept is not ours: then there is nothing recent.
    return [];
  }
}

/** Pages of single things that were looked at, the last first. */
export const recent = {
  list: read,
  /** @param title of the page, as “Name · Early Bell” */
  visit(path: string, title: string): void {
    if (!/^\/(?:tasks|rules|projects|people|digests|sweeps|calendars)\/\d+$/.test(path)) return;
    const name = title.replace(/ · Early Bell$/, '');
    const visits = [{ href: path, name }, ...read().filter(({ href }) => href !== path)].slice(0, MOST);
    try {
      localStorage.setItem(KEY, JSON.stringify(visits));
    } catch {
      // Nothing can be kept: the next list is shorter.
    }
  },
  /** Whoever signs in next sees nothing of it. */
  forget(): void {
    localStorage.removeItem(KEY);
  }
};

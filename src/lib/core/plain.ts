/** A text as it is looked for: in small letters without accents, its spaces single. */
export function plain(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s+/g, ' ').trim();
}

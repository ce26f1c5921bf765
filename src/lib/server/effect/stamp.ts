/** The stamp of a preview as it comes back with the act; null where none came, or nothing that could be one. */
export function stampOf(sent: unknown): string | null {
  return typeof sent === 'string' && sent !== '' && sent.length <= 200 ? sent : null;
}

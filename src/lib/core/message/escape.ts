const SPECIAL = /[&<>"']/;
const EVERY_SPECIAL = /[&<>"']/g;

/** Escapes text for HTML, attributes included. */
export function escapeHtml(text: string): string {
  // Nearly all text has nothing to escape, and looking is much quicker than replacing nothing.
  if (!SPECIAL.test(text)) return text;
  return text.replace(EVERY_SPECIAL, (character) => `&#${character.charCodeAt(0)};`);
}

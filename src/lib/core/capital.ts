/** With a capital first letter, as a sentence or a label begins. */
export function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

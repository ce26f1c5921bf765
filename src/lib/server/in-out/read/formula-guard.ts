/**
 * A cell as it was before a sign was put in front of it so that no spreadsheet runs it as a formula
 * (OWASP, “CSV Injection”: what begins with =, +, −, @, a tab or a carriage return).
 */
export function withoutFormulaGuard(cell: string): string {
  return /^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell;
}

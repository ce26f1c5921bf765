import Papa from 'papaparse';
import { CodedError } from '../../../core/errors.ts';
import { withoutFormulaGuard } from './formula-guard.ts';

export const MOST_ROWS = 100_000;
/** Characters that are taken apart at once: some milliseconds. */
const AT_ONCE = 128 * 1024;

/** A row of a file as it stands there. */
export interface TableRow {
  line: number;
  cells: string[];
}

/** What a file is, besides its rows. */
export interface Table {
  header: string[];
  delimiter: string;
  rows: number;
}

/**
 * Takes the text of a CSV file apart (RFC 4180 and its relatives), part by part.
 * @param onRows is given the rows of each part and how far that is, from 0 to 1; the next part waits for it
 * @throws CodedError `import-empty`, `import-header-only` or `import-too-many-rows`
 */
export function readTable(
  text: string,
  onRows: (rows: readonly TableRow[], part: number) => Promise<void>
): Promise<Table> {
  return new Promise((resolve, reject) => {
    let header: string[] | null = null;
    let line = 0;
    let delimiter = ',';
    let rows = 0;
    Papa.parse<string[]>(text, {
      skipEmptyLines: 'greedy',
      chunkSize: AT_ONCE,
      chunk: ({ data, meta }: Papa.ParseResult<string[]>, parser: Papa.Parser) => {
        delimiter = meta.delimiter;
        const batch: TableRow[] = [];
        for (const cells of data) {
          line++;
          if (header === null) header = cells.map((cell) => cell.trim());
          else batch.push({ line, cells: cells.map(withoutFormulaGuard) });
        }
        rows += batch.length;
        if (rows > MOST_ROWS) {
          reject(new CodedError('import-too-many-rows', { most: MOST_ROWS.toLocaleString('en') }));
          return parser.abort();
        }
        parser.pause();
        onRows(batch, meta.cursor / text.length).then(() => parser.resume(), reject);
      },
      complete: () => {
        if (header === null) reject(new CodedError('import-empty'));
        else if (rows === 0) reject(new CodedError('import-header-only'));
        else resolve({ header, delimiter, rows });
      },
      error: reject
    });
  });
}

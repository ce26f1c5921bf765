import { decodeText, type Encoding } from './decode.ts';
import { readTable, type Table, type TableRow } from './table.ts';

/** What was found in an uploaded file, besides its rows. */
export interface Upload extends Table {
  encoding: Encoding;
}

/**
 * Reads the bytes of an uploaded CSV file, part by part.
 * @param onRows is given the rows of each part and how far that is, from 0 to 1; the next part waits for it
 * @throws CodedError as `decodeText` and `readTable`
 */
export async function readUpload(
  bytes: Uint8Array,
  onRows: (rows: readonly TableRow[], part: number) => Promise<void>
): Promise<Upload> {
  const { text, encoding } = decodeText(bytes);
  return { ...(await readTable(text, onRows)), encoding };
}

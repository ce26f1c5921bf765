/**
 * Gives every cell of the tables inside an element the words of its column, so that on a narrow screen a row is read as a stack of lines
 * (`app.css`, `.stacked`). Tables that are a picture of their own, as a month of days, say so by `data-whole`. Use it as an action.
 */
export function stackedTables(node: HTMLElement) {
  const observer = new MutationObserver(() => labelAll(node));
  observer.observe(node, { childList: true, subtree: true });
  labelAll(node);
  return { destroy: () => observer.disconnect() };
}

/** With fewer columns than this a row is short enough as it is. */
const FEWEST_COLUMNS = 3;

function labelAll(node: HTMLElement): void {
  for (const table of node.querySelectorAll('table')) if (!isWhole(table)) label(table);
}

function isWhole(table: HTMLTableElement): boolean {
  return table.getAttribute('role') === 'grid' || table.dataset.whole !== undefined;
}

function label(table: HTMLTableElement): void {
  const heads = [...(table.tHead?.rows[0]?.cells ?? [])].map((cell) =>
    (cell.dataset.head ?? cell.textContent).trim()
  );
  if (heads.length < FEWEST_COLUMNS) return;
  table.classList.add('stacked');
  for (const body of table.tBodies)
    for (const row of body.rows) {
      // A row that goes over all columns needs no words before it.
      if (row.cells.length !== heads.length) continue;
      heads.forEach((words, i) => {
        const cell = row.cells[i]!;
        if (i > 0 && words !== '' && cell.dataset.label !== words) cell.dataset.label = words;
      });
    }
}

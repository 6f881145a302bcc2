/** Lines that any spreadsheet opens (CSV, RFC 4180, UTF-8). */
export function csvText(rows: readonly (readonly string[])[]): string {
  return rows.map((row) => `${row.map(quoted).join(',')}\r\n`).join('');
}

/** A cell that a spreadsheet would take for a formula is told to be text. */
function quoted(cell: string): string {
  const text = /^[=+\-@\t]/.test(cell) ? `'${cell}` : cell;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

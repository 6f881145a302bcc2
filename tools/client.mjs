/** Speaks to the server as its own pages do. */
export function client(base) {
  const ask = async (method, where, body) => {
    const response = await fetch(`${base}/api${where}`, {
      method,
      headers: { 'content-type': 'application/json', 'x-arkiv': '1' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const text = await response.text();
    if (!response.ok) throw new Error(`${method} ${where}: ${response.status} ${text}`);
    return text ? JSON.parse(text) : undefined;
  };
  return {
    /** A shoot's frames: each column as its values. */
    frames: async (shootId) => unpacked(await ask('GET', `/shoots/${shootId}/frames`)),
    get: (where) => ask('GET', where),
    post: (where, body = {}) => ask('POST', where, body),
    put: (where, body) => ask('PUT', where, body),
    patch: (where, body) => ask('PATCH', where, body),
  };
}

/** Packed columns as their values: one value for all rows, or words and each row's place among them. */
export const unpacked = ({ columns, count }) => ({
  count,
  columns: Object.fromEntries(
    Object.entries(columns).map(([name, column]) => {
      if (Array.isArray(column)) return [name, column];
      if ('all' in column) return [name, Array(count).fill(column.all)];
      return [name, column.at.map((i) => column.words[i])];
    }),
  ),
});

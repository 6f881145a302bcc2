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
    frames: (shootId) => ask('GET', `/shoots/${shootId}/frames`),
    get: (where) => ask('GET', where),
    post: (where, body = {}) => ask('POST', where, body),
    put: (where, body) => ask('PUT', where, body),
    patch: (where, body) => ask('PATCH', where, body),
  };
}

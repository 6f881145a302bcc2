/** Asks the server for something below the link's address; rejects with its words where it refuses. */
export async function ask<T>(address: string, body?: object): Promise<T> {
  const response = await fetch(address, {
    ...(body && {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    }),
  }).catch(() => null);
  if (response?.ok) return (await response.json()) as T;
  const problem = (await response?.json().catch(() => null)) as { message: string; next: string } | null;
  throw new Error(
    problem
      ? `${problem.message} ${problem.next}`
      : 'Nobody answers at the moment. What has arrived is kept: try again.',
  );
}

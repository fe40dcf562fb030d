/** What the desk's own server answers at a path, as JSON. */
export async function load<T>(path: string): Promise<T> {
  const answer = await fetch(path);
  if (!answer.ok) throw new Error(`${path} answered ${answer.status}`);
  return (await answer.json()) as T;
}

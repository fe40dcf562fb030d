const KEPT_MS = 60_000;

/** Saves something to a file of the user's. */
export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), KEPT_MS);
}

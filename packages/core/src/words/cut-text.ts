/** A text of at most so many letters; what is cut off is said by three dots. */
export function cutText(text: string, most: number): string {
  return text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text;
}

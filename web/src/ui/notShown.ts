/** Sentences of a refusal that stand nowhere on the page. `page`: its visible text in one line. */
export function notShown(sentences: string[], page: string): string[] {
  return sentences.filter((sentence) => !page.includes(inOneLine(sentence)));
}

export function inOneLine(text: string): string {
  return text.replace(/\s+/g, ' ').trim();
}

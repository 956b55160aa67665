/** Sentences of a refusal that stand nowhere on the page. `page`: its visible text in one line. */
export function notShown(sentences: string[], page: string): string[] {
  const shown = page.toLowerCase(); // at its field it may stand behind the field's name
  return sentences.filter((sentence) => !shown.includes(inOneLine(sentence).toLowerCase()));
}

export function inOneLine(text: string): string {
  return text.replace(/\s+/g, ' ').trim();
}

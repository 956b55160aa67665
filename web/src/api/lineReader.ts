/** The JSON values of a stream, a line each, however it was cut into pieces on its way. A connection that breaks ends it. */
export async function* readLines<T>(stream: ReadableStream<Uint8Array>): AsyncGenerator<T> {
  const reader = stream.getReader();
  const decoder = new TextDecoder();
  let rest = '';
  for (;;) {
    const piece = await reader.read().catch(() => ({ done: true as const, value: undefined }));
    rest += piece.value ? decoder.decode(piece.value, { stream: true }) : '';
    const lines = rest.split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) if (line) yield JSON.parse(line) as T;
    if (piece.done) return;
  }
}

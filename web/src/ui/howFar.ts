export type HowFar = { done: number; of: number };

/** Of a table whose rows are gone through twice: read, then written. */
export const readThenWritten = ({ done, of }: HowFar) =>
  done < of / 2 ? `Reading: ${done} of ${of / 2} rows` : `Writing: ${done - of / 2} of ${of / 2} rows`;

/** Whether there is a keyboard and a pointer: a phone must not open its keyboard unasked. */
export const atADesk = () => window.matchMedia('(hover: hover) and (pointer: fine)').matches;

const BROWSERS: [RegExp, string][] = [
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\//, 'Firefox'],
  [/Chrome\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];
const MACHINES: [RegExp, string][] = [
  [/iPhone/, 'a phone'],
  [/iPad/, 'a tablet'],
  [/Android.*Mobile/, 'a phone'],
  [/Android/, 'a tablet'],
  [/Windows/, 'a Windows computer'],
  [/Macintosh/, 'a Mac'],
  [/Linux|X11/, 'a Linux computer'],
];

/** A device in words, from what its browser says of itself; what says nothing known is told as it stands. */
export function deviceWords(agent: string): string {
  const browser = BROWSERS.find(([sign]) => sign.test(agent))?.[1];
  const machine = MACHINES.find(([sign]) => sign.test(agent))?.[1];
  if (browser && machine) return `${browser} on ${machine}`;
  return browser ?? machine ?? (agent.slice(0, 40) || 'A device that says nothing of itself');
}

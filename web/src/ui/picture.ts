const SVG_STYLES = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-opacity',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'opacity',
];

/** A part of the page as a PNG data URL, twice its size on the screen; under a title and notes of its own, which the page has above it. */
export async function pictureOf(element: HTMLElement, lines: string[] = []): Promise<string> {
  const { toPng } = await import('html-to-image');
  const restore = inlineSvgStyles(element);
  const head = headOf(lines);
  element.prepend(...head);
  try {
    return await toPng(element, {
      pixelRatio: 2,
      width: element.offsetWidth,
      height: element.offsetHeight,
      backgroundColor: getComputedStyle(element).backgroundColor,
      style: { margin: '0' },
    });
  } finally {
    for (const line of head) line.remove();
    restore();
  }
}

function headOf(lines: string[]): HTMLElement[] {
  return lines.map((text, i) => {
    const line = document.createElement('p');
    line.textContent = text;
    line.style.cssText = i ? 'font-size: 12px; padding: 0 4px' : 'font-size: 15px; font-weight: 650; padding: 4px';
    return line;
  });
}

/** The chart inside a part of the page as SVG text that stands alone, under its title and notes; dots drawn on a canvas come along as a picture. */
export function svgTextOf(element: HTMLElement, lines: string[] = []): string {
  const drawn = element.querySelector('svg')!;
  const restore = inlineSvgStyles(element);
  try {
    const copy = drawn.cloneNode(true) as SVGSVGElement;
    const { width, height } = drawn.getBoundingClientRect();
    copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
    copy.setAttribute('width', String(width));
    copy.setAttribute('height', String(height));
    const canvas = element.querySelector('canvas');
    if (canvas) {
      const image = document.createElementNS('http://www.w3.org/2000/svg', 'image');
      image.setAttribute('href', canvas.toDataURL());
      image.setAttribute('width', String(width));
      image.setAttribute('height', String(height));
      copy.append(image);
    }
    if (lines.length) titled(copy, width, height, lines);
    return new XMLSerializer().serializeToString(copy);
  } finally {
    restore();
  }
}

const LINE_PX = 18;
const LETTER_PX = 6.6;

/** Lines of at most so many letters, broken between words. */
export function wrapped(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** Makes room above a drawing for what it shows and whose its regions are. */
function titled(drawing: SVGSVGElement, width: number, height: number, said: string[]) {
  const lines = said.flatMap((line) => wrapped(line, Math.floor(width / LETTER_PX)));
  const room = lines.length * LINE_PX + 8;
  drawing.setAttribute('viewBox', `0 ${-room} ${width} ${height + room}`);
  drawing.setAttribute('height', String(height + room));
  lines.forEach((line, i) => {
    const text = document.createElementNS('http://www.w3.org/2000/svg', 'text');
    text.setAttribute('x', '4');
    text.setAttribute('y', String(-room + (i + 1) * LINE_PX));
    text.setAttribute('font-family', 'sans-serif');
    text.setAttribute('font-size', i ? '12' : '15');
    if (!i) text.setAttribute('font-weight', '650');
    text.textContent = line;
    drawing.append(text);
  });
}

/** The picture is drawn without our style sheets inside of charts, so their looks are written on for the moment. */
function inlineSvgStyles(element: HTMLElement): () => void {
  const touched = [...element.querySelectorAll<SVGElement>('svg *')].map((node) => {
    const before = node.getAttribute('style');
    const looks = getComputedStyle(node);
    for (const name of SVG_STYLES) node.style.setProperty(name, looks.getPropertyValue(name));
    return [node, before] as const;
  });
  return () => {
    for (const [node, before] of touched) {
      if (before === null) node.removeAttribute('style');
      else node.setAttribute('style', before);
    }
  };
}

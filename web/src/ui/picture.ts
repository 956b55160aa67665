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

/** A part of the page as a PNG data URL, twice its size on the screen. */
export async function pictureOf(element: HTMLElement): Promise<string> {
  const { toPng } = await import('html-to-image');
  const restore = inlineSvgStyles(element);
  try {
    return await toPng(element, {
      pixelRatio: 2,
      width: element.offsetWidth,
      height: element.offsetHeight,
      backgroundColor: getComputedStyle(element).backgroundColor,
      style: { margin: '0' },
    });
  } finally {
    restore();
  }
}

/** The chart inside a part of the page as SVG text that stands alone; dots drawn on a canvas come along as a picture. */
export function svgTextOf(element: HTMLElement): string {
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
    return new XMLSerializer().serializeToString(copy);
  } finally {
    restore();
  }
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

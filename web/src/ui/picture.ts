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

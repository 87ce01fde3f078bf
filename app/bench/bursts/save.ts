import type { HeldCapture } from '../../workers/bursts';

/** Gives the browser a file to keep. */
export function saveFile(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken it by then.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** The name of a capture without its ending. */
export const stemOf = (name: string) => name.replace(/\.[^.]*$/, '').replace(/[^\w.-]+/g, '-') || 'capture';

export const csvOf = ({ bursts }: HeldCapture): string =>
  [
    'number,start_s,length_s,amplitude_v,carrier_hz,carrier_uncertainty_hz,dips',
    ...bursts.map((b, i) => [i + 1, b.startS, b.durationS, b.amplitude, b.carrierHz, b.carrierUncertaintyHz ?? '', b.notches ?? ''].join(',')),
    '',
  ].join('\n');

/** A drawing as PNG, twice its size on screen, with the colors it has there. */
export async function pngOf(svg: SVGSVGElement): Promise<Blob> {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [own, copied] = [svg.querySelectorAll('rect, path'), copy.querySelectorAll('rect, path')];
  own.forEach((element, i) => {
    const { fill, stroke } = getComputedStyle(element);
    copied[i]!.setAttribute('fill', fill);
    copied[i]!.setAttribute('stroke', stroke);
  });
  const { width, height } = svg.getBoundingClientRect();
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(new XMLSerializer().serializeToString(copy))}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [2 * width, 2 * height];
  const paper = canvas.getContext('2d')!;
  paper.fillStyle = getComputedStyle(document.body).backgroundColor;
  paper.fillRect(0, 0, canvas.width, canvas.height);
  paper.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The browser made no picture of the drawing'))), 'image/png'),
  );
}

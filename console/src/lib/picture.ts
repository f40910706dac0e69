/** A picture of the screen as a file of its own: colours and letters are written into it, so that it looks the same elsewhere. */

const SCALE = 2;
const DRAWN = "rect, text, path, line, circle";
const STROKES = ["stroke", "stroke-width", "stroke-dasharray"];

function standalone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const [own, copied] = [svg.querySelectorAll(DRAWN), copy.querySelectorAll(DRAWN)];
  own.forEach((element, n) => {
    const style = getComputedStyle(element);
    const target = copied[n] as SVGElement;
    target.removeAttribute("style");
    target.removeAttribute("class");
    target.setAttribute("fill", style.fill);
    for (const name of STROKES) if (style.stroke !== "none") target.setAttribute(name, style.getPropertyValue(name));
    if (element.tagName === "text") {
      target.setAttribute("font-size", style.fontSize);
      target.setAttribute("font-weight", style.fontWeight);
      target.setAttribute("font-family", "sans-serif");
    }
  });
  for (const group of copy.querySelectorAll("g"))
    for (const name of ["role", "tabindex", "class"]) group.removeAttribute(name);
  const { width, height } = svg.viewBox.baseVal;
  copy.removeAttribute("class");
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  return new XMLSerializer().serializeToString(copy);
}

function download(blob: Blob, name: string) {
  const url = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

export function saveSvg(svg: SVGSVGElement, name: string) {
  download(new Blob([standalone(svg)], { type: "image/svg+xml" }), name);
}

export async function savePng(svg: SVGSVGElement, name: string) {
  const { width, height } = svg.viewBox.baseVal;
  const image = new Image(width * SCALE, height * SCALE);
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standalone(svg))}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = width * SCALE;
  canvas.height = height * SCALE;
  const brush = canvas.getContext("2d");
  if (!brush) return;
  brush.fillStyle = getComputedStyle(document.body).backgroundColor;
  brush.fillRect(0, 0, canvas.width, canvas.height);
  brush.drawImage(image, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => blob && download(blob, name), "image/png");
}

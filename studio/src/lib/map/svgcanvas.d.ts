/** A drawing context that writes SVG; the package has no types of its own. */
declare module 'svgcanvas' {
  export class Context {
    constructor(width: number, height: number);
    getSvg(): SVGElement;
  }
}

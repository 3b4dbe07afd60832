export * from './cleanSvg'
export * from './readCanvasSvg'
export type { SvgItem } from './svgItem'
export { writeCanvasSvg } from './writeCanvasSvg'

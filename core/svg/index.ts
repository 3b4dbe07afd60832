export * from './cleanSvg'
export * from './readCanvasSvg'
export { writeCanvasSvg } from './writeCanvasSvg'

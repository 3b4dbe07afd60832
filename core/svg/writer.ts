// What a page needs of the SVGs that leave it; what comes in is read elsewhere, with schemas and an XML parser.
export * from './svgItem'
export { writeCanvasSvg } from './writeCanvasSvg'

export * from './cleanSvg'
export * from './readCanvasSvg'
export * from './writer'

export * from './cleanSvg'
export * from './keying'
export * from './limits'

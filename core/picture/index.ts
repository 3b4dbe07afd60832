export * from './keying'
export * from './limits'

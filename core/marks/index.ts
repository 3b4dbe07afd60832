export * from './stepMarks'

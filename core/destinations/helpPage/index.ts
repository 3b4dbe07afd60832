export * from './rulesRead'

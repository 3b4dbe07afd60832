export { type MeasurementDefaults, measurementLimits, type RateUnit, rateUnitsKbps } from './draft'
export * from './measurements'

export interface Histogram {
  low: number
  high: number
  areas_m2: number[]
}

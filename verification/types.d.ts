declare module 'psychrolib' {
  const psychrolib: {
    SI: number
    SetUnitSystem(unit: number): void
    GetSatVapPres(t: number): number
    GetVapPresFromRelHum(t: number, rh: number): number
    GetTDewPointFromRelHum(t: number, rh: number): number
  }
  export default psychrolib
}

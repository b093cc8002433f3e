/** How a section is laid onto its sheet. */
export interface SectionScale {
  /** Pixels for a metre along the line. */
  across: number
  /** Heights are drawn so many times too tall; 1 is true. */
  exaggeration: number
  low: number
  high: number
  x(atM: number): number
  y(heightM: number): number
}

const EXAGGERATIONS = [1, 2, 5, 10, 20, 50]

/** Fits a section into a sheet: true to scale where there is room for it, else in the largest exaggeration that fits. */
export function sectionScale(
  lengthM: number, lowM: number, highM: number, sheet: { left: number; top: number; width: number; height: number },
): SectionScale {
  const across = sheet.width / lengthM
  const span = Math.max(highM - lowM, 0.5)
  const fits = EXAGGERATIONS.filter((e) => span * across * e <= sheet.height)
  // Steeper than the sheet is tall: heights are pressed instead.
  const exaggeration = fits.at(-1) !== undefined ? Math.min(...EXAGGERATIONS.filter((e) => fits.includes(e) && span * across * e >= sheet.height * 0.35).concat(fits.at(-1)!)) : sheet.height / (span * across)
  const up = across * exaggeration
  const bottom = sheet.top + sheet.height - (sheet.height - span * up) / 2
  return {
    across, exaggeration, low: lowM, high: lowM + span,
    x: (atM) => sheet.left + atM * across,
    y: (heightM) => bottom - (heightM - lowM) * up,
  }
}

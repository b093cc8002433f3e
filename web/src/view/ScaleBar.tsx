/** How long a metre is where the view looks. */
export function ScaleBar({ metresPerPx }: { metresPerPx: number }) {
  if (!(metresPerPx > 0)) return null
  const most = metresPerPx * 130
  const power = 10 ** Math.floor(Math.log10(most))
  const metres = [5, 2, 1].map((k) => k * power).find((m) => m <= most) ?? power
  const width = metres / metresPerPx
  const text = metres >= 1000 ? `${metres / 1000} km` : metres >= 1 ? `${metres} m` : `${metres * 100} cm`
  return (
    <div
      role="img"
      aria-label={`Scale bar: ${text} at the middle of the view`}
      className="pointer-events-none absolute right-3 bottom-3 rounded-md border border-rule bg-panel/92 px-2 pt-0.5 pb-1.5 shadow-sm"
    >
      <div className="text-center font-mono text-[11px] leading-4">{text}</div>
      <div className="h-1.5 border-x border-b border-ink" style={{ width }} />
    </div>
  )
}

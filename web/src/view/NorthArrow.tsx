/** Which way north is on the picture. */
export function NorthArrow({ headingDeg }: { headingDeg: number }) {
  return (
    <svg
      role="img"
      aria-label={`North arrow; looking ${Math.round(headingDeg)} degrees from north`}
      viewBox="-20 -28 40 48"
      className="pointer-events-none absolute top-2 right-3 h-14 w-12"
    >
      <circle r="15" className="fill-panel/90 stroke-sea" strokeWidth="1.2" />
      <g transform={`rotate(${-headingDeg})`}>
        <path d="M0-13 4.5 6 0 3-4.5 6Z" className="fill-sea" />
        <path d="M0-13 0 3-4.5 6Z" className="fill-ink" />
        <text y="-17" textAnchor="middle" className="fill-ink text-[9px] font-bold" style={{ paintOrder: 'stroke', stroke: 'var(--panel)', strokeWidth: 3 }}>
          N
        </text>
      </g>
    </svg>
  )
}

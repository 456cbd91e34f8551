/** Marks that no icon set has: a clamp for forced values, a turning shaft for plant, a dashed one for bench. */
const frame = { viewBox: '0 0 20 20', 'aria-hidden': true } as const

export const Clamp = ({ size = 18 }: { size?: number }) => (
  <svg {...frame} width={size} height={size}>
    <path d="M4 3h12M4 17h12M10 3v4M10 17v-4" stroke="currentColor" strokeWidth="2" fill="none" strokeLinecap="round" />
    <rect x="5.5" y="7.6" width="9" height="4.8" fill="currentColor" />
  </svg>
)

export const Turning = () => (
  <svg {...frame} width={24} height={24}>
    <circle cx="10" cy="10" r="3.2" fill="currentColor" />
    <path
      d="M10 2.6A7.4 7.4 0 0 1 16.9 12.6M10 17.4A7.4 7.4 0 0 1 3.1 7.4"
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
    />
    <path d="M19.3 11.6 15.7 15.4 14.2 10.6ZM.7 8.4 4.3 4.6 5.8 9.4Z" fill="currentColor" />
  </svg>
)

export const Drawn = () => (
  <svg {...frame} width={24} height={24}>
    <circle cx="10" cy="10" r="7.2" fill="none" stroke="currentColor" strokeWidth="1.8" strokeDasharray="2.6 2.4" />
    <circle cx="10" cy="10" r="2.6" fill="none" stroke="currentColor" strokeWidth="1.6" strokeDasharray="1.8 1.5" />
  </svg>
)

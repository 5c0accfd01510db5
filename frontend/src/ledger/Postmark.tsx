import { useId } from 'react'
import type { Schemas } from '../api/client'
import { dayWords } from './words'

type Seal = Schemas['SealAnswer']

interface PostmarkProps {
  seal: Seal
  practice: string
  size?: number
}

/** The cancellation mark of a signed trial balance; a broken seal has a broken ring. */
export function Postmark({ seal, practice, size = 150 }: PostmarkProps) {
  const id = useId()
  const broken = seal.broken
  const initials = [seal.prepared_by, seal.signed_by].filter(Boolean).join(' · ')
  const tone = broken ? 'stroke-rust' : 'stroke-deep'
  const text = broken ? 'fill-rust' : 'fill-deep'
  const says = `${broken ? 'Broken seal' : 'Signed off'} as at ${dayWords(seal.as_at)}, prepared by ${seal.prepared_by ?? 'nobody'}, signed by ${seal.signed_by}, seal ${seal.digest.slice(0, 8)}`
  return (
    <svg role="img" aria-label={says} width={size * 1.5} height={size} viewBox="0 0 240 160">
      <title>{says}</title>
      <g fill="none" strokeWidth="2.4" className={tone} transform="rotate(-7 80 80)">
        <circle
          cx="80"
          cy="80"
          r="70"
          strokeDasharray={broken ? '150 26 90 34 60 22' : undefined}
        />
        <circle
          cx="80"
          cy="80"
          r="47"
          strokeWidth="1.4"
          strokeDasharray={broken ? '70 20 110 30' : undefined}
        />
        {[52, 68, 84, 100].map((y) => (
          <path
            key={y}
            strokeWidth="2"
            strokeDasharray={broken ? '34 14' : undefined}
            d={`M150 ${y}c9-7 17 7 26 0s17-7 26 0 17 7 30 0`}
          />
        ))}
      </g>
      <g className={text} transform="rotate(-7 80 80)" textAnchor="middle" fontWeight="650">
        <path id={`${id}-top`} d="M24.5 80a55.5 55.5 0 0 1 111 0" fill="none" />
        <path id={`${id}-foot`} d="M18 80a62 62 0 0 0 124 0" fill="none" />
        <text fontSize="11.5" letterSpacing="1.2">
          <textPath href={`#${id}-top`} startOffset="50%">
            {practice.toUpperCase()}
          </textPath>
        </text>
        <text fontSize="10.5" letterSpacing="1.4">
          <textPath href={`#${id}-foot`} startOffset="50%">
            {broken ? 'SEAL BROKEN' : 'SIGNED OFF'}
          </textPath>
        </text>
        <text x="80" y="66" fontSize="11">
          {initials}
        </text>
        <text x="80" y="85" fontSize="15" className="font-display">
          {dayWords(seal.as_at)}
        </text>
        <text x="80" y="102" fontSize="11" letterSpacing="0.8">
          {seal.digest.slice(0, 8)}
        </text>
      </g>
    </svg>
  )
}

import type { Schemas } from '../api/client'
import { shortDayWords } from '../ledger/words'

interface DueChartProps {
  weeks: Schemas['WeekAnswer'][]
  finished: string
}

const WIDTH = 54
const TALL = 56

/** Sign-offs due by week, against how many a week were finished of late. */
export function DueChart({ weeks, finished }: DueChartProps) {
  const pace = Number(finished)
  const most = Math.max(3, pace, ...weeks.map((week) => week.due))
  const tall = (count: number) => (count / most) * TALL
  const line = TALL + 16 - tall(pace)
  return (
    <figure className="w-[560px]">
      <figcaption className="mb-1 text-[12px] text-quiet">
        Sign-offs due by week; the dashed line is what four past weeks finished, {finished} a week
      </figcaption>
      <svg
        role="img"
        aria-label={weeks.map((week) => `${shortDayWords(week.first_day)}: ${week.due}`).join(', ')}
        width={weeks.length * WIDTH + 10}
        height={TALL + 32}
        className="fill-ink text-[12px]"
      >
        <title>Sign-offs due by week</title>
        <path d={`M0 ${TALL + 16.5}h${weeks.length * WIDTH + 10}`} className="stroke-ink" />
        {weeks.map((week, place) => {
          const middle = place * WIDTH + WIDTH / 2
          return (
            <g key={week.first_day} textAnchor="middle">
              {week.due > 0 && (
                <>
                  <rect
                    x={middle - 15}
                    y={TALL + 16 - tall(week.due)}
                    width="30"
                    height={tall(week.due)}
                    className={week.due > Math.max(pace, 1) ? 'fill-rust-fill' : 'fill-moss-fill'}
                  />
                  <text x={middle} y={TALL + 12 - tall(week.due)}>
                    {week.due}
                  </text>
                </>
              )}
              <text x={middle} y={TALL + 30} className="fill-quiet">
                {place === 0 ? 'now' : shortDayWords(week.first_day)}
              </text>
            </g>
          )
        })}
        <path
          d={`M0 ${line}h${weeks.length * WIDTH + 10}`}
          className="stroke-cork"
          strokeDasharray="4 3"
        />
      </svg>
    </figure>
  )
}

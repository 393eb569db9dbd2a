import * as React from 'react'
import type { Level } from './level'

type Props<T> = { levels:T[],onPick?:(level:T)=>void }

export const Chart=<T extends Level,>({levels,onPick}:Props<T>):JSX.Element|null => {
  const tone=levels[0].tone
  const [picked,pick]=React.useState<T|null>(null)
  if(!levels) return null
  return (
    <svg viewBox='0 0 100 40' className={`p-4 night:flex ${tone} wide:p-8 flex`} role="img" aria-label={`The last ${levels.length} levels`}>
      {levels.map((level,index) => <circle key={index} cx={index*4} cy={40-level.height} r={level===picked?3:2} onClick={() => {
        pick(level)
        onPick?.(level)
      }}/>)}
      <Axis<Level> from={0} to={levels.length-1} /> <text>metres</text>
    </svg>
  )
}
type Colour = "harbour blue" | "storm grey" | "foam white" | "signal red" | "buoy yellow" | "weed green"
type Mark =
  | {
      level: number
      since: Date
    }
  | Colour
const mark = picked
  ? {
      level: picked,
      since,
    }
  : "calm"

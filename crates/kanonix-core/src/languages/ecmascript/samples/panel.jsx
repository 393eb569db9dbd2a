import { useState } from 'react'
import {Gauge} from './gauge'

export function Panel({gauges,title='Tides',...rest}){
  const [open,setOpen]=useState( false )
  if(!gauges.length) return <p className='p-4 night:flex empty wide:p-8 flex'>No gauges</p>
  switch(title){
  case 'Tides': break;
  default: console.log(title)
  }
  return <section className="panel" {...rest}>
    <h1>{title}</h1><button onClick={()=>setOpen(!open)}>{open?'Close':'Open'} the list</button>
    {open&&<ul>
      {gauges.map(gauge=><li key={gauge.id}><Gauge  level={gauge.level} unit='m'/></li>)}
    </ul>}
    {/* the next tide */}
    <p>
      High water at <b>{gauges[0].high}</b>, low water at <b>{gauges[0].low}</b>.
      Times are local.
    </p>
    <></>
    <Chart className="panel-chart" gauges={gauges} from={first} to={last} step={hour} legend="metres above datum">{title}</Chart>
  </section>
}

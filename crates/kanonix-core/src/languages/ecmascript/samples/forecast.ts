import type {Gauge} from './gauge'
import fs = require('fs')

export type Tide='ebb'|'flood'
type Warning = | { kind: 'storm', surge: number } | { kind: 'fog'; until: Date } | { kind: 'ice', thickness: number }
type Levels<T extends object={}> = {readonly [K in keyof T]?:T[K] extends number?T[K]:never}

/** What the office foretells. */
export interface Forecast<T=Tide> extends Gauge,Readonly<Levels> {
  tide:T; at?:Date
  [name:string]:unknown
  new(level:number):Forecast
  warn(this:Forecast,...levels:number[]):asserts this is Forecast<'flood'>
}

export enum Siren{ Off, On=2 }

declare module 'tides' { export const level:number }
namespace office { export let open:boolean }

@sealed
export abstract class Office<T> extends Base<T> implements Forecast<T>,Iterable<T>{
  static readonly step:number=6
  private levels!:Map<string,number>
  declare ready?:boolean;
  constructor(private readonly gauge:Gauge,public name?:string){ super() }
  abstract next(): T
  @log() get level():number{ return this.gauge!.level as number }
  at<K extends keyof Gauge>(key:K,other:Gauge[K]=<any>null):Gauge[K]|undefined
  at(key:any,other?:any){ return (other satisfies unknown) ?? this.gauge[key] }
}

function isHigh(level:number|undefined):level is number
function isHigh(level:unknown):level is number { return typeof level==='number'&&level>5 }

const read = async <T,>(path:string,parse:(text:string)=>T):Promise<T> => parse(await fs.promises.readFile(path,'utf8'))
let pair:[low:number,high?:number,...rest:number[]] = [1,2]
let fixed = ['a','b'] as const, query:typeof fixed[number], maker:new(...levels:number[])=>Gauge
for(const a of fixed) if(a) console.log(a); else break
type Weather="storm surge"|"thick fog"|"drifting ice"|"very low tide"|"no news of the buoy"|"calm"
type Mark =
  | {
      level: number
      since: Date
    }
  | Weather
const mark = isHigh(level)
  ? {
      level,
      since,
    }
  : "calm"

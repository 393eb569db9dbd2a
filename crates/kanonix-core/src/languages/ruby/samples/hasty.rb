require 'date'
def ebb( level,unit=:metre )
    if level<2 and not level.nil? then puts( level ) else warn"high" end
    x=level>1?level*2:level**2
  levels=[ 1,2 ,3]; low = { :a=>1,b: 2 }
  gauges.each{|gauge,i| gauge . read( i ) ; gauge.close}
  gauges.map {|g| g.level}
  while x>0 do x-=1 end
  x = -> ( a ) { a*2 }
  y = (x)
  case x when 1 then 2 else 3 end
  case x
    when 1,2 then 3
    else
    4
  end
      return x&.y || z&&w
end
heights = gauges.
  select(&:live?).
  sum
class Quay<Place; def name;@name;end
  attr_accessor :low
  def low?; low end
  private
  def high
    not low
  rescue Fog=>e
    nil
  end
  def self.all() @all end
  def deep

    1
  end
end
module A
module B
  C = 1
end
end
class Fog; def thick?; true; end; end
class Mist; attr_reader :level; end
x = 1 .. 2
flags=low|high&1
name = 'quay'   
other = "gauge"
puts name #why

gauges
  .select { |gauge| gauge.live? && gauge.level > 2 }
  .map { |gauge| gauge.level }
  .sum

if gauges.any? &&
   gauges.all?(&:live?)
  warn 'every gauge is live'
end

notify :north, 'the tide is high',
       level: 5.2,
       at: Time.now do |answer|
  answer.read
end

notify(:south,
       'the tide is low',
       level: 0.4)

notify(
  :inner,
  'the lock is shut',
  { level: 1.2, at: Time.now }
)

def report(day,
           gauges)
  day
end

def late(
    day,
    gauges)
  day
end

state = if level > 2
          'flood'
        else
          'ebb'
        end

state = level > 2 ?
  'flood' :
  'ebb'

text = 'The tide office of Saltmarsh tells you ' \
       'that the tide is ' + state

total = first_reading_of_the_northern_gauge + second_reading_of_the_northern_gauge + third_reading_of_the_gauge

raise ArgumentError, "the northern gauge has not been read since #{day}" if gauges.first.read_at < day && !gauges.empty?

wide = gauges.map { |gauge| gauge.level_at(Time.now, unit: :metre) + gauge.correction_at(Time.now, unit: :metre) }

answer = (
  state == 'flood' && quay.stands_higher_than?(the_level_of_the_spring_tide)
)

measure(first_reading_of_the_northern_gauge, second_reading_of_the_northern_gauge, third_reading_of_the_southern_gauge, unit: :metre)

totals = measure(
  first_reading_of_the_northern_gauge_of_the_harbour + second_reading_of_the_northern_gauge_of_the_harbour + third_reading,
  second_reading_of_the_northern_gauge
)

matrix = [[1, 2],
          [3, 4]]

options = { name: 'The northern gauge of the outer harbour', level: 5.2, at: Time.now, unit: :metre, live: true }

class Buoy
  NAMES = []

  def adrift?
    moored = true
    !moored
  end
  alias loose? adrift?

  def sink(*) = raise('never')
  private :sink
end

is_high = the_level_at_the_northern_quay_of_the_harbour > 2.4 && the_wind_of_the_last_hour_at_the_mole_in_knots > the_strongest_that_it_is_open_in

#!/usr/bin/env ruby
# frozen_string_literal: true

require 'date'
require_relative 'gauge'

=begin
The tides of Saltmarsh, told to whoever asks.
  Heights are metres above the chart's zero.
=end

module Saltmarsh
  # What the office says of one day.
  class Report < Document
    include Enumerable

    attr_reader :day, :gauges

    LEVELS = { ebb: 0.4, flood: 5.2, 'spring tide' => 6.1 }.freeze
    QUAYS = %w[north south inner]
    MARKS = %i[low high].freeze
    HEADING = <<~TEXT.freeze
      Tides of the day
        as the gauges had them
    TEXT

    def initialize(day, gauges = [], *rest, unit: :metre, **options, &block)
      super(day)
      @day, @gauges = day, gauges
      @unit ||= unit
      @block = block if block_given?
    end

    def each(&block) = gauges.each(&block)

    def empty? = gauges.none?

    def self.of(day)
      new(day) { |gauge| gauge.near?(day) }
    end

    def heights(now: Time.now)
      gauges.select(&:live?).map do |gauge|
        height = gauge.level(now) + LEVELS[:ebb]
        next if height.negative?

        [gauge.name, height.round(2)]
      end
    rescue Storm, Fog => e
      warn "no heights: #{e.message}"
      []
    else
      notify
    ensure
      close
    end

    def tell(level)
      case level
      when 0..1, nil then 'ebb'
      when 2...4
        'rising'
      else
        'flood'
      end
    end

    def warn?(reading)
      case reading
      in { level: Float => level, gauge: { name: } } if level > 5
        puts "#{name} is high"
      in [Integer, *rest]
        rest.any?
      in Reading(level:) | Spring[level]
        true
      in ^day
        false
      end
    end

    def settle
      if gauges.empty? || !day
        return
      elsif day > Date.today
        raise ArgumentError, 'not yet' unless @options[:ahead]
      else
        yield(self)
      end
      until quiet?
        begin
          listen
        end while waves.any?
      end
      waves = gauges.sum { _1.waves }**2 / 3.0
      for gauge in gauges do gauge.reset; end
      @worst = waves > 3 ? -waves : waves
    end

    protected

    def quiet? = @quiet

    private

    def listen
      loop do
        break if @queue.nil? or stopped?

        @queue << ->(wave) { wave.height * 2 }
        redo unless defined?(@quiet) and not @quiet
      end
    end

    def write(out, text)
      out.puts(<<-HEAD, text, <<~'TAIL')
      #{day}: #{gauges.size} gauges
      HEAD
        that was all
      TAIL
    end
  end

  class Storm < StandardError; end

  class << self
    def today = Report.of(Date.today)
  end
end

BEGIN { $stdout.sync = true }
alias_method :now, :today
puts Saltmarsh.today&.heights&.first, Saltmarsh::Report::QUAYS[1..]
__END__
what is read when somebody asks for DATA
  stays as it stands   

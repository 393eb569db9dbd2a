# frozen_string_literal: true

require "date"

module Saltmarsh
  # The tides of a day, as the town's paper prints them.
  class TideReport
    Tide = Struct.new(:at, :metres, keyword_init: true)

    HEADING = <<~TEXT
      Tides at Saltmarsh, %s
      heights in metres above the chart's zero
    TEXT

    KINDS = {
      low:  "low water",
      high: "high water",
      none: "slack"
    }.freeze

    attr_reader :day, :tides

    def initialize(day, tides = [])
      @day = day
      @tides = tides.sort_by(&:at)
    end

    def self.read(path, day: Date.today)
      lines = File.readlines(path, chomp: true).reject(&:empty?)
      new(day, lines.map { |line| parse(line) })
    rescue Errno::ENOENT => e
      warn "no readings: #{e.message}"
      new(day)
    end

    def self.parse(line)
      at, metres = line.split(",")
      Tide.new(at:, metres: Float(metres))
    end
    private_class_method :parse

    def to_s
      format(HEADING, day.strftime("%-d %B")) + rows.join("\n")
    end

    def highest = tides.max_by(&:metres)

    private

    def rows
      tides.map.with_index do |tide, index|
        kind = kind_of(tides[index - 1], tide)
        format("%s  %-10s %5.2f", tide.at, KINDS.fetch(kind), tide.metres)
      end
    end

    def kind_of(before, tide)
      case tide.metres - before.metres
      when 0.2.. then :high
      when ..-0.2 then :low
      else :none
      end
    end
  end
end

puts Saltmarsh::TideReport.read(ARGV.fetch(0)) if $PROGRAM_NAME == __FILE__

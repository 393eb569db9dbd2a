package saltmarsh.service;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Answers what the town asks: how high the water stands, and when it turns. */
public final class TideService {
    private static final Duration STALE = Duration.ofMinutes(30);

    private final Map<String, List<Reading>> readings;
    private final Clock clock;

    public TideService(Map<String, List<Reading>> readings, Clock clock) {
        this.readings = readings;
        this.clock = clock;
    }

    /** The last reading of a station that is not too old. */
    public Optional<Reading> latest(String station) {
        List<Reading> known = readings.getOrDefault(station, List.of());
        if (known.isEmpty()) {
            return Optional.empty();
        }
        Reading last = known.get(known.size() - 1);
        Duration age = Duration.between(last.at(), clock.now());
        return age.compareTo(STALE) > 0 ? Optional.empty() : Optional.of(last);
    }

    /** The stations whose water stands higher than this. */
    public List<String> above(double metres) {
        List<String> high = new ArrayList<>();
        for (String station : readings.keySet()) {
            latest(station).filter(reading -> reading.metres() > metres).ifPresent(reading -> {
                high.add(station);
            });
        }
        return high;
    }

    public Turn turn(String station) {
        List<Reading> known = readings.getOrDefault(station, List.of());
        if (known.size() < 2) {
            return Turn.UNKNOWN;
        }
        double before = known.get(known.size() - 2).metres();
        double now = known.get(known.size() - 1).metres();
        if (now > before) {
            return Turn.FLOOD;
        } else if (now < before) {
            return Turn.EBB;
        } else {
            return Turn.SLACK;
        }
    }

    /** What a gauge has said, and when. */
    public record Reading(Instant at, double metres) {}

    public enum Turn { EBB, FLOOD, SLACK, UNKNOWN }

    /** The time, or a test's idea of it. */
    public interface Clock {
        Instant now();
    }
}

// What the tide office knows of a gauge.
package saltmarsh.tides;

import static java.util.stream.Collectors.toList;

import java.util.*;
import java.util.function.Function;

/**
 * A gauge in the harbour.
 *
 * @param <L> what it measures
 */
@Deprecated(since = "2", forRemoval = false)
public abstract class Gauge<L extends Comparable<L> & Level> extends Station implements Alarm, Siren {
    private static final int[] STEPS = {1, 2, 3};
    private static final int[][] TABLE = new int[][] {
        {1, 20, 300},
        {40, 5, 6},
    };
    private final Map<String, List<? extends L>> levels = new HashMap<>();
    protected volatile int ebb = 1, flood; // in metres
    @Override public int hashCode() { return 31 * ebb + flood; }

    static {
        load();
    }

    {
        flood = ~ebb;
    }

    public Gauge(String name, int ebb) throws Storm {
        super(name);
        this.ebb = ebb;
    }

    @SafeVarargs
    @SuppressWarnings({"unchecked", "rawtypes"})
    public final <T> T read(final T first, Function<? super L, T> by, T... rest) throws Storm, Calm {
        if (first == null || rest.length > 2 && !by.equals(first)) {
            throw new Storm("nothing to read: " + rest.length);
        } else if (ebb < 0) {
            return first;
        } else {
            warn();
        }
        for (int at = 0, end = rest.length; at < end; at++, end--) {
            rest[at] = (T) rest[end - 1];
        }
        for (final var level : levels.entrySet()) {
            System.out.printf("%s %d%n", level.getKey(), level.getValue().size());
        }
        outer:
        while (true) {
            do {
                ebb += 2;
                if (ebb % 7 == 0) continue outer;
            } while (ebb < 10);
            break;
        }
        return levels.values().stream().flatMap(List::stream).map(by).filter(Objects::nonNull).findFirst()
                .orElse(first);
    }

    abstract void warn();

    private Runnable watch(Gauge<?> other) {
        try (var log = open("quay"); log2) {
            synchronized (this) {
                log.write(ebb > 2 ? "high" : "low");
            }
        } catch (Storm | Calm problem) {
            return null;
        } finally {
            assert ebb > 0 : "no water";
        }
        return () -> {
            other.warn();
        };
    }

    int month(Object tide) {
        switch (ebb) {
            case 1:
            case 2:
                warn();
                break;
            default:
                return -1;
        }
        int days = switch (tide) {
            case null -> 0;
            case Spring(int height, var moon) when height > 3 -> height;
            case Neap neap -> {
                warn();
                yield 7;
            }
            default -> throw new IllegalStateException();
        };
        var text = """
            The tide is
              high.
            """;
        if (tide instanceof final Neap neap && neap.days() > 2) days <<= 1;
        return days >>> 1;
    }

    interface Level {
        int metres();

        default int feet() {
            return metres() * 3;
        }
    }

    enum Kind {
        SPRING("s") {
            @Override
            int range() {
                return 4;
            }
        },
        NEAP("n");

        private final String letter;

        Kind(String letter) {
            this.letter = letter;
        }

        int range() {
            return 2;
        }
    }

    enum Side { PORT, STARBOARD }

    record Reading(int at, double metres) implements Comparable<Reading> {
        Reading {
            if (at < 0) {
                throw new IllegalArgumentException();
            }
        }

        @Override
        public int compareTo(Reading other) {
            return Integer.compare(at, other.at);
        }
    }

    @interface Checked {
        String by() default "office";

        int[] at() default {};
    }

    sealed interface Shape permits Round, Flat {}
}

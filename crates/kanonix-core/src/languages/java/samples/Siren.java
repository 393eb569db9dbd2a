package saltmarsh.alarms;

/** Warns the town. */
final class Siren extends saltmarsh.Horn {
    private Siren next;
    int level   = 2;
    int highest = 12;

    void sound(String reason, int seconds, boolean quietly, Runnable behind, Gauge<?>... gauges) {
        next.sound(reason, seconds - 1, quietly, new Runnable() {
            @Override
            public void run() {
                behind.run();
            }
        });
        next.register("the harbour", reason, gauges.length, Math.max(level, highest), seconds % 60, this::run);
        String message = "The level at " + reason + " is higher than it was at any time since the last spring " + "tide.";
        boolean late = level > highest && seconds > 60 || quietly && behind == null && gauges.length > 100 - level;
        int wait = quietly ? seconds * 2 : late ? seconds / 2 : seconds;
        this.<String>tell(-(-level), (int) 2.5, - -level, Siren.class, int[].class, new int[3][], outer.new Inner());
        gauges[0].levels[level - 1]++;
        if (late) next = null; else sound("late", 1, true, null);
        level = highest = wait;
    }
}

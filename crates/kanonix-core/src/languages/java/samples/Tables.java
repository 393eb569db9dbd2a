package saltmarsh.tides;

/** Laid out by hand. */
class Tables {

    static final int[][] HEIGHTS = {
        {  1,  20, 300 },
        { 40,   5,   6 },
    };
    int ebb   = 1,   
        flood = 2; // metres
    long slack;    // minutes
    String late;   // why
    String first = "the quay at noon", second = "the mole in the evening", third = "the lock at night";

    void watch(int level,
               String station) {
        boolean high = (
            level > 2
        );
        boolean low = (level < 2 && station.isEmpty() || level < 1 && slack > 2 && flood == 2 - ebb);
        warn(level > 2 && station.isEmpty() || level < 1 && slack > 2 && flood == 2 - ebb - 1, station);
        late = high ? "high" :
            low ? "low" : null;
        warn(
                high && level > 2 || low && station.isEmpty() && level < 1 && slack > 2 && flood == 2 - ebb);
        // nothing else

    }

    Level shown = rising
            ? new Level(2) {
                int mark = 1;
            }
            : null;

    class Empty { int a; }
    void shut(
            int level,
            int gate
    ) {
    }
}

void alone() {
}
void other() {
}

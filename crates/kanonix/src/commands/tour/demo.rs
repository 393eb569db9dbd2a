//! The demo repository's files, and what is changed in them on the tour.

macro_rules! demo_files {
    ($($path:literal),* $(,)?) => {
        /// Path and text of every file.
        pub(super) const FILES: &[(&str, &str)] = &[
            $(($path, include_str!(concat!("../../../../../demo/tidewatch/", $path))),)*
        ];
    };
}

demo_files! {
    ".gitignore",
    "README.md",
    "alarms/notify.js",
    "alarms/rules.js",
    "alarms/siren.js",
    "alarms/thresholds.json",
    "buoy/Cargo.toml",
    "buoy/display.lua",
    "buoy/src/lib.rs",
    "buoy/src/packet.rs",
    "dashboard/chart.mjs",
    "dashboard/levels.mjs",
    "dashboard/package.json",
    "dashboard/panel.tsx",
    "dashboard/server.mjs",
    "forecast/surge.ts",
    "game/harbour.gd",
    "gauges/__init__.py",
    "gauges/calibrate.py",
    "gauges/ingest.py",
    "gauges/store.py",
    "operators/Restart-Gauges.ps1",
    "reports/template.json",
    "reports/tides.py",
    "reports/tides.rb",
    "reports/weekly.py",
    "service/TideService.java",
    "site/alarms.html.tmpl",
    "site/tides.css",
    "site/tides.html",
    "viewer/TideViewer.cs",
}

/// A stretch of a file, and what somebody makes of it.
type Edit = (&'static str, &'static str);

pub(super) const OFFSET: Edit = (
    "    off = offsets.get(r.station, 0)\n",
    "    off=round( offsets.get(r.station,0), 3 )\n",
);

pub(super) const DRIFT: Edit =
    ("    total += r.metres-ref\n", "    total+=abs(r.metres-ref)   # either way\n");

pub(super) const WARN_EARLIER: Edit = (
    "    if (reading.metres >= limits.flood) {\n",
    "    const early=reading.wind&&reading.wind.metresPerSecond>14 ? 0.3: 0;\n    \
     if (reading.metres>=limits.flood-early)\n    {\n",
);

pub(super) const NEXT_TIDE: Edit = (
    "            <tr><td>Mole</td><td>3.1</td></tr>\n",
    "            <tr><td>Mole</td><td>3.1</td></tr>\n      \
     <tr ><td>Lock</td><td class='next'  >3.4</td></tr>\n",
);

pub(super) const MARK_STORMS: Edit = (
    "        mark(3.2);\n",
    "        mark( location.hash===\"#storm\" ? 2.9:3.2 )\n",
);

pub(super) const LOWEST: Edit = (
    "    public Turn turn(String station) {\n",
    "    public double lowest( String station,Duration since ) throws IllegalStateException {\n\
     return readings.getOrDefault( station,List.of() ).stream().filter(reading -> reading.at()\
     .isAfter(clock.now().minus(since))).mapToDouble(Reading::metres).min().orElseThrow();\n    }\n\n    \
     public Turn turn(String station) {\n",
);

pub(super) const QUIET_HOURS: Edit = (
    "function notifyAll(keepers, message) {\n",
    "function isNight(date)\n{\n    const hour = date.getHours()\n    \
     return hour>=22||hour<6;\n}\n\nfunction notifyAll(keepers, message, date = new Date()) {\n    \
     if(isNight(date)&&!message.urgent) return\n",
);

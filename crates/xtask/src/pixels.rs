//! Pages in a browser, before and after a mend: is a pixel drawn otherwise?

use anyhow::{Context, bail};
use kanonix_core::languages;
use kanonix_core::mend;
use kanonix_core::text::LineSet;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// The widths of the windows, and their height.
const WIDTHS: [u32; 2] = [480, 1280];
const HEIGHT: u32 = 4000;

/// Draws `count` pages of a folder, spread evenly, as they are and mended; says whether all of them
/// look the same. No script runs, as what one draws may depend on the time.
pub fn run(
    dir: &Path,
    canon: Option<&Path>,
    count: usize,
    browser: &str,
) -> anyhow::Result<bool> {
    let html = languages::by_name("html").context("built without pages")?;
    let style = super::corpus::styles(canon)?.remove(html.name).context("no style for pages")?;
    let pages = super::corpus::files(dir, Some(html))?;
    let step = (pages.len() / count.max(1)).max(1);
    let folder = tempfile::tempdir()?;
    let (mut drawn, mut mended, mut differ) = (0, 0, 0);
    for (path, _) in pages.iter().step_by(step).take(count) {
        let Ok(before) = std::fs::read_to_string(path) else { continue };
        let Ok(after) = mend(&before, html, &style, &LineSet::whole()) else { continue };
        let shots = WIDTHS.map(|width| {
            let before = draw(browser, folder.path(), &before, width)?;
            Ok::<_, anyhow::Error>(before == draw(browser, folder.path(), &after.text, width)?)
        });
        drawn += 1;
        mended += usize::from(after.text != before);
        for (shot, width) in shots.into_iter().zip(WIDTHS) {
            if !shot? {
                differ += 1;
                println!("{} at {width}", path.display());
            }
        }
    }
    println!("{drawn} pages at {} widths, {mended} of them mended: {differ} differ", WIDTHS.len());
    Ok(differ == 0 && mended > 0)
}

/// A page as the browser draws it, as a picture.
fn draw(browser: &str, folder: &Path, text: &str, width: u32) -> anyhow::Result<Vec<u8>> {
    let (page, picture) = (folder.join("page.html"), folder.join("page.png"));
    // An element's first `type` is the one that counts.
    let still = ["<script", "<SCRIPT"].iter().fold(text.to_string(), |text, tag| {
        text.replace(tag, "<script type=still ")
    });
    std::fs::write(&page, still.replace(" onload=", " data-onload="))?;
    let _ = std::fs::remove_file(&picture);
    let address = |path: &PathBuf| format!("file://{}", path.display());
    let status = Command::new(browser)
        .args([
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--hide-scrollbars",
            "--no-first-run",
        ])
        .args(["--disable-background-networking", "--disable-component-update", "--disable-sync"])
        .arg(format!("--user-data-dir={}", folder.join("profile").display()))
        .arg(format!("--window-size={width},{HEIGHT}"))
        .arg(format!("--screenshot={}", picture.display()))
        .arg(address(&page))
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .status()
        .with_context(|| format!("{browser} cannot be run"))?;
    if !status.success() {
        bail!("{browser} draws nothing");
    }
    std::fs::read(&picture).context("no picture was made")
}

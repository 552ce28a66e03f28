//! The printed PDF measured: rendered by poppler, the bar and the ticks found in the picture.

use crate::support::{Server, signed_up};
use serde_json::json;
use std::process::{Command, Stdio};
use uuid::Uuid;

const DPI: f64 = 300.0;

/// A page as grey pixels.
struct Page {
    wide: usize,
    grey: Vec<u8>,
}

impl Page {
    /// Renders one page with pdftoppm.
    fn render(pdf: &[u8], number: u32) -> Self {
        let page = number.to_string();
        let pgm = piped("pdftoppm", &["-r", "300", "-gray", "-aa", "no", "-aaVector", "no", "-f", &page, "-l", &page, "-"], pdf);
        // P5, width, height, 255, then the pixels.
        let mut header = pgm.splitn(4, u8::is_ascii_whitespace);
        assert_eq!(header.next().unwrap(), b"P5");
        let mut number = || std::str::from_utf8(header.next().unwrap()).unwrap().parse::<usize>().unwrap();
        let (wide, high) = (number(), number());
        let grey = pgm[pgm.len() - wide * high..].to_vec();
        Self { wide, grey }
    }

    /// Dark runs of one row as (start, end), pixels.
    fn runs(&self, row: usize) -> Vec<(usize, usize)> {
        let line = &self.grey[row * self.wide..(row + 1) * self.wide];
        let mut runs = Vec::new();
        let mut from = None;
        for (x, dark) in line.iter().map(|g| *g < 128).chain([false]).enumerate() {
            match (dark, from) {
                (true, None) => from = Some(x),
                (false, Some(start)) => {
                    runs.push((start, x));
                    from = None;
                }
                _ => {}
            }
        }
        runs
    }

    fn rows(&self) -> usize {
        self.grey.len() / self.wide
    }
}

fn mm(pixels: f64) -> f64 {
    pixels / DPI * 25.4
}

/// Runs a tool of poppler over a PDF.
pub fn piped(tool: &str, args: &[&str], pdf: &[u8]) -> Vec<u8> {
    let file = std::env::temp_dir().join(format!("rk-print-{}.pdf", Uuid::now_v7().simple()));
    std::fs::write(&file, pdf).unwrap();
    let (options, out) = args.split_at(args.len() - 1);
    let target: &[&str] = if tool == "pdftotext" { out } else { &[] };
    let done =
        Command::new(tool).args(options).arg(&file).args(target).stderr(Stdio::piped()).output().expect("poppler-utils is installed");
    std::fs::remove_file(&file).unwrap();
    assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    done.stdout
}

/// The bar at the foot of a page: the lowest row with one run of about 100 mm; just above it stand its end marks.
fn bar(page: &Page) -> f64 {
    let row =
        (0..page.rows()).rev().find(|row| page.runs(*row).iter().any(|(a, b)| (mm((b - a) as f64) - 100.0).abs() < 2.0)).expect("a bar");
    let (from, to) = *page.runs(row).iter().max_by_key(|(a, b)| b - a).unwrap();
    // Two millimetres above the line only the end marks are left.
    let marks: Vec<f64> = page
        .runs(row - (2.0 / 25.4 * DPI) as usize)
        .iter()
        .map(|(a, b)| (a + b) as f64 / 2.0)
        .filter(|x| (*x - from as f64).abs() < 12.0 || (*x - to as f64).abs() < 12.0)
        .collect();
    assert_eq!(marks.len(), 2, "an end mark each");
    mm(marks[1] - marks[0])
}

async fn pdfs(query: &str) -> (Vec<u8>, Vec<u8>) {
    let server = Server::start("serve").await;
    let cook = signed_up(&server).await;
    let form =
        json!({"cut": "pork-belly", "weight": "3.1 kg", "thick": "45 mm", "face": "300 x 220 mm", "key": Uuid::now_v7().to_string()});
    let kept = cook.post(server.url("/pieces")).form(&form).send().await.unwrap();
    let piece = kept.headers()["location"].to_str().unwrap().to_owned();
    let mut both = Vec::new();
    for file in ["knife.pdf", "knife-strips.pdf"] {
        let answer = cook.get(server.url(&format!("{piece}/{file}?{query}"))).send().await.unwrap();
        assert_eq!(answer.headers()["content-type"], "application/pdf");
        both.push(answer.bytes().await.unwrap().to_vec());
    }
    let strips = both.pop().unwrap();
    (both.pop().unwrap(), strips)
}

#[tokio::test(flavor = "multi_thread")]
async fn bar_and_ticks_measure_right_and_the_words_are_there() {
    let (sheet, strips) = pdfs("work=parallel&spacing=10+mm").await;
    for pdf in [&sheet, &strips] {
        let long = bar(&Page::render(pdf, 1));
        assert!((long - 100.0).abs() < 0.3, "the bar measures {long} mm");
    }
    // Strokes 10 mm apart: from the first tick to the eleventh are 100 mm. Ticks hang from the bold edge of the strip.
    let page = Page::render(&strips, 1);
    let edge = (0..page.rows()).find(|row| page.runs(*row).iter().any(|(a, b)| mm((b - a) as f64) > 200.0)).expect("the strip's edge");
    let ticks: Vec<f64> = page
        .runs(edge + (6.0 / 25.4 * DPI) as usize)
        .iter()
        .filter(|(a, b)| mm((b - a) as f64) < 0.6)
        .map(|(a, b)| (a + b) as f64 / 2.0)
        .collect();
    let apart: Vec<f64> = ticks.windows(2).map(|pair| mm(pair[1] - pair[0])).collect();
    let first = apart.windows(10).position(|ten| ten.iter().all(|gap| (gap - 10.0).abs() < 0.3)).expect("eleven ticks in a row");
    let hundred = mm(ticks[first + 10] - ticks[first]);
    assert!((hundred - 100.0).abs() < 0.3, "eleven ticks span {hundred} mm");

    let words = String::from_utf8(piped("pdftotext", &["-"], &sheet)).unwrap();
    assert!(words.contains("100 mm") && words.contains("ink does not touch meat") && words.contains("8 mm deep at most"), "{words}");
    assert!(words.contains("Page 2 of 2") && words.contains("lay cross on cross"), "300 mm need two sheets: {words}");
    let words = String::from_utf8(piped("pdftotext", &["-"], &strips)).unwrap();
    assert!(words.contains("left end") && words.contains("right end") && words.contains("corner"), "{words}");
}

#[tokio::test(flavor = "multi_thread")]
async fn letter_and_holes_print_too() {
    let (sheet, strips) = pdfs("work=pierce&density=8&paper=letter").await;
    let info = String::from_utf8(piped("pdfinfo", &["-"], &sheet)).unwrap();
    // 8½ × 11 in: 612 × 792 points, on whichever side.
    assert!(info.contains("612 x 792") || info.contains("792 x 612"), "{info}");
    assert!((bar(&Page::render(&strips, 1)) - 100.0).abs() < 0.3);
}

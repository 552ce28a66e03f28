//! A page in a household's units. The program writes metric; a kitchen of pounds and inches reads its own units first on every page,
//! because every page leaves through here: no view can forget it.

use super::in_units::{customary_alone, customary_first, is_quoted};
use rauchkeller_core::units::System;
use std::borrow::Cow;

/// Elements whose content is no text for a cook.
const NO_TEXT: [&str; 3] = ["script", "style", "textarea"];
/// Elements that have no content.
const EMPTY: [&str; 7] = ["input", "br", "hr", "img", "meta", "link", "source"];
/// Attributes a cook reads or hears.
const READ: [&str; 4] = ["aria-label", "placeholder", "title", "alt"];

/// A page as this household reads it.
pub fn page_in_units(page: &str, system: Option<System>) -> String {
    Pen { customary: system == Some(System::Customary), ..Pen::default() }.written(page)
}

/// Hours in tenths as a kitchen clock has them: `0.2 h` is twelve minutes, `8.4 h` are 8 h 24.
fn on_the_clock(text: &str) -> Cow<'_, str> {
    let tenths = |at: usize| {
        let before = &text[..at];
        let whole = before.len() - before.bytes().rev().take_while(u8::is_ascii_digit).count();
        let part = text[at + 1..].bytes().take_while(u8::is_ascii_digit).count();
        let end = at + 1 + part;
        let unit = ["\u{a0}h", " h"].into_iter().find(|unit| text[end..].starts_with(unit))?;
        let goes_on = text[end + unit.len()..].chars().next().is_some_and(|c| c.is_alphanumeric() || c == '/');
        let fresh = !text[..whole].ends_with(['.', ',']);
        let hours: f64 = text[whole..end].parse().ok().filter(|_| whole < at && part > 0 && fresh && !goes_on && !is_quoted(before))?;
        let min = (hours * 60.0).round() as i64;
        let said = match (min / 60, min % 60) {
            (0, min) => format!("{min} min"),
            (h, 0) => format!("{h} h"),
            (h, min) => format!("{h} h {min:02}"),
        };
        Some((whole, said, end + unit.len()))
    };
    let mut out = String::new();
    let mut from = 0;
    for (at, _) in text.match_indices('.') {
        if let Some((start, said, end)) = tenths(at).filter(|(start, ..)| *start >= from) {
            out.push_str(&text[from..start]);
            out.push_str(&said);
            from = end;
        }
    }
    if from == 0 { Cow::Borrowed(text) } else { Cow::Owned(out + &text[from..]) }
}

/// Where in a page the pen is.
#[derive(Default)]
struct Pen {
    out: String,
    customary: bool,
    /// Open elements, by name, from the outermost that says the same in the other system or holds what the cook typed: within them all
    /// stays as it is.
    as_it_is: Vec<String>,
    /// Within a picture there is no room for both.
    picture: bool,
}

impl Pen {
    fn written(mut self, page: &str) -> String {
        self.out.reserve(page.len() + page.len() / 16);
        let mut rest = page;
        while !rest.is_empty() {
            let tag = rest.find('<').unwrap_or(rest.len());
            self.text(&rest[..tag]);
            rest = &rest[tag..];
            let Some(end) = end_of_tag(rest) else {
                self.out.push_str(rest);
                break;
            };
            let name = self.tag(&rest[..end]);
            rest = &rest[end..];
            if let Some(name) = NO_TEXT.into_iter().find(|no| *no == name) {
                let close = rest.find(&format!("</{name}")).unwrap_or(rest.len());
                self.out.push_str(&rest[..close]);
                rest = &rest[close..];
            }
        }
        self.out
    }

    fn text(&mut self, text: &str) {
        if !self.as_it_is.is_empty() || !text.contains(|c: char| c.is_ascii_digit()) {
            self.out.push_str(text);
            return;
        }
        let text = on_the_clock(text);
        match (self.customary, self.picture) {
            (false, _) => self.out.push_str(&text),
            (true, true) => self.out.push_str(&customary_alone(&text)),
            (true, false) => self.out.push_str(&customary_first(&text)),
        }
    }

    /// Copies a tag with the attributes a cook reads rewritten; its name, if it opens something.
    fn tag<'a>(&mut self, tag: &'a str) -> &'a str {
        let inner = tag.trim_start_matches('<').trim_end_matches('>').trim_end_matches('/');
        let closes = inner.starts_with('/');
        let name = inner.trim_start_matches('/').split(|c: char| c.is_whitespace()).next().unwrap_or_default();
        if closes {
            self.close(name);
            self.out.push_str(tag);
            return "";
        }
        if !self.as_it_is.is_empty() || !self.customary {
            self.out.push_str(tag);
        } else {
            self.attributes(tag);
        }
        if tag.ends_with("/>") || EMPTY.contains(&name) || name.starts_with('!') {
            return "";
        }
        self.picture |= name == "svg";
        if !self.as_it_is.is_empty() || is_other(tag) {
            self.as_it_is.push(name.to_owned());
        }
        name
    }

    fn close(&mut self, name: &str) {
        self.picture &= name != "svg";
        // An end that HTML lets a writer leave out is left out of the count, too.
        if let Some(open) = self.as_it_is.iter().rposition(|open| open == name) {
            self.as_it_is.truncate(open);
        }
    }

    fn attributes(&mut self, tag: &str) {
        let mut rest = tag;
        while let Some((before, quote)) = rest.split_once("=\"") {
            let Some((value, after)) = quote.split_once('"') else { break };
            self.out.push_str(before);
            self.out.push_str("=\"");
            let read = READ.iter().any(|name| before.ends_with(name)) && value.contains(|c: char| c.is_ascii_digit());
            if read {
                self.out.push_str(&customary_alone(value));
            } else {
                self.out.push_str(value);
            }
            self.out.push('"');
            rest = after;
        }
        self.out.push_str(rest);
    }
}

/// Whether an element says in the other system what stands beside it, or shows what somebody typed.
fn is_other(tag: &str) -> bool {
    let class = tag.split_once("class=\"").and_then(|(_, rest)| rest.split_once('"')).map_or("", |(class, _)| class);
    class.split(' ').any(|class| matches!(class, "other" | "as-typed"))
}

/// Where a tag ends, quoted values passed over.
fn end_of_tag(text: &str) -> Option<usize> {
    let mut quoted = false;
    text.char_indices().find_map(|(at, c)| {
        quoted ^= c == '"';
        (c == '>' && !quoted).then_some(at + 1)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    // NIST Handbook 44, App. C, and °F = 1.8 × °C + 32.
    #[test]
    fn what_a_cook_reads_is_turned_and_nothing_else() {
        for (metric, us) in [
            ("<p>at 175 °C</p>", "<p>at 347 °F (175 °C)</p>"),
            (r#"<p>145 <span class="other">63 °C</span> 63 °C</p>"#, r#"<p>145 <span class="other">63 °C</span> 145 °F (63 °C)</p>"#),
            (r#"<b class="soft other"><i>1 kg</i> 2 kg</b>"#, r#"<b class="soft other"><i>1 kg</i> 2 kg</b>"#),
            (r#"<input value="8 mm" placeholder="8 mm"> 8 mm"#, r#"<input value="8 mm" placeholder="0.31 in"> 0.31 in (8 mm)"#),
            (
                r#"<svg aria-label="at 63 °C"><text x="4">63 °C</text></svg>63 °C"#,
                r#"<svg aria-label="at 145 °F"><text x="4">145 °F</text></svg>145 °F (63 °C)"#,
            ),
            ("<script>const a = '8 mm';</script>", "<script>const a = '8 mm';</script>"),
            ("<textarea>60 °C</textarea>", "<textarea>60 °C</textarea>"),
            (r#"<a href="/x?air=60 °C" title="a > 60 °C">x</a>"#, r#"<a href="/x?air=60 °C" title="a > 140 °F">x</a>"#),
            ("<p>145 °F (63 °C), 63 °C (145 °F)</p>", "<p>145 °F (63 °C), 145 °F (63 °C)</p>"),
            ("60 °C <", "140 °F (60 °C) <"),
        ] {
            assert_eq!(page_in_units(metric, Some(System::Customary)), us);
            assert_eq!(page_in_units(metric, Some(System::Metric)), metric);
        }
    }

    #[test]
    fn hours_are_said_as_a_clock_has_them() {
        // By hand: 0.2 × 60 = 12, 0.4 × 60 = 24, 0.96 × 60 = 57.6.
        for (tenths, clock) in [
            ("<b>0.2 h</b>, 8.4 h and 12–24.9 h", "<b>12 min</b>, 8 h 24 and 12–24 h 54"),
            ("2.0 h, 23.96 h", "2 h, 23 h 58"),
            ("“24.5 h” is typed, 24.5 h is said", "“24.5 h” is typed, 24 h 30 is said"),
            ("7.5 g/kg, 24 h, 1.5 hours, v1.2.3 h, 0.5 h/kg", "7.5 g/kg, 24 h, 1.5 hours, v1.2.3 h, 0.5 h/kg"),
        ] {
            assert_eq!(page_in_units(tenths, None), clock);
        }
    }

    proptest::proptest! {
        #[test]
        fn whatever_a_page_holds_it_is_written_whole(page in "[a-z0-9 <>\"/=°Cmkg.–]{0,80}") {
            let turned = page_in_units(&page, Some(System::Customary));
            proptest::prop_assert!(turned.matches('<').count() == page.matches('<').count());
        }
    }
}

//! On which line of a file a field stands: what is wrong with a file is said where its cook can find it.

use std::iter::Peekable;
use std::str::CharIndices;

/// The line, from 1, on which a field of a JSON text begins; where it is missing, the line of what it would stand in.
///
/// The text has been read before: of one that is no JSON the answer is some line of it.
///
/// ```
/// use rauchkeller_contract::line_of;
/// let text = "{\n  \"name\": \"a\",\n  \"tasks\": [\n    {\"task\": \"dry\"},\n    {\"task\": 3}\n  ]\n}";
/// assert_eq!([line_of(text, "name"), line_of(text, "tasks[1].task"), line_of(text, "tasks[0].minutes")], [2, 5, 4]);
/// ```
pub fn line_of(text: &str, path: &str) -> usize {
    let mut walk = Walk { chars: text.char_indices().peekable(), line: 1, wanted: path, found: 1, reached: 0 };
    walk.value("", 0);
    walk.found
}

struct Walk<'a> {
    chars: Peekable<CharIndices<'a>>,
    line: usize,
    wanted: &'a str,
    found: usize,
    /// How much of the wanted path is found so far, in letters.
    reached: usize,
}

/// Deeper no document goes.
const DEEPEST: usize = 60;

impl Walk<'_> {
    fn next(&mut self) -> Option<char> {
        let (_, c) = self.chars.next()?;
        self.line += usize::from(c == '\n');
        Some(c)
    }

    fn space(&mut self) {
        while self.chars.peek().is_some_and(|(_, c)| c.is_whitespace() || matches!(c, ',' | ':')) {
            self.next();
        }
    }

    /// Notes the line, where the path leads to the wanted one or lies nearer to it than any before.
    fn note(&mut self, path: &str) {
        let rest = self.wanted.strip_prefix(path);
        let leads = rest.is_some_and(|rest| path.is_empty() || rest.is_empty() || rest.starts_with(['.', '[']));
        if leads && (path.len() > self.reached || path.is_empty()) {
            (self.reached, self.found) = (path.len(), self.line);
        }
    }

    fn value(&mut self, path: &str, deep: usize) {
        self.space();
        self.note(path);
        match self.chars.peek().map(|(_, c)| *c) {
            Some('{') if deep < DEEPEST => {
                self.next();
                loop {
                    self.space();
                    match self.chars.peek().map(|(_, c)| *c) {
                        Some('"') => {
                            let name = self.text();
                            let inner = if path.is_empty() { name } else { format!("{path}.{name}") };
                            self.note(&inner);
                            self.value(&inner, deep + 1);
                        }
                        Some('}') | None => break,
                        Some(_) => {}
                    }
                    if self.stuck('}') {
                        break;
                    }
                }
                self.next();
            }
            Some('[') if deep < DEEPEST => {
                self.next();
                for i in 0.. {
                    self.space();
                    if self.chars.peek().is_none_or(|(_, c)| *c == ']') {
                        break;
                    }
                    self.value(&format!("{path}[{i}]"), deep + 1);
                }
                self.next();
            }
            Some('"') => drop(self.text()),
            _ => {
                // A number or a word; at least one letter, so that what is no JSON ends, too.
                self.next();
                while self.chars.peek().is_some_and(|(_, c)| !c.is_whitespace() && !matches!(c, ',' | ']' | '}')) {
                    self.next();
                }
            }
        }
    }

    /// Passes over what cannot stand there, so that what is no JSON ends, too.
    fn stuck(&mut self, end: char) -> bool {
        self.space();
        match self.chars.peek().map(|(_, c)| *c) {
            None => true,
            Some(c) if c == end => true,
            Some('"') => false,
            Some(_) => {
                self.next();
                false
            }
        }
    }

    fn text(&mut self) -> String {
        let mut said = String::new();
        self.next();
        while let Some(c) = self.next() {
            match c {
                '"' => break,
                '\\' => said.extend(self.next()),
                c => said.push(c),
            }
        }
        said
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::{Value, json};

    /// Every field of a document written one field a line is found on its own line.
    #[test]
    fn each_field_is_found_on_its_line() {
        let document: Value = json!({"a": {"b": [1, {"c": "x, }]\" y"}], "bb": 2}, "ab": [[3, 4], []], "z": null});
        let text = serde_json::to_string_pretty(&document).unwrap();
        let lines: Vec<&str> = text.lines().collect();
        for (path, starts) in [
            ("a", "\"a\": {"),
            ("a.b", "\"b\": ["),
            ("a.b[0]", "1"),
            ("a.b[1].c", "\"c\""),
            ("a.bb", "\"bb\""),
            ("ab", "\"ab\""),
            ("ab[0][1]", "4"),
            ("z", "\"z\""),
        ] {
            let line = lines[line_of(&text, path) - 1].trim();
            assert!(line.starts_with(starts), "{path}: {line}");
        }
        // What is missing is where it would stand; what nothing leads to, at the beginning.
        assert_eq!(lines[line_of(&text, "a.b[1].d") - 1].trim(), "{");
        assert_eq!(line_of(&text, "nothing"), 1);
    }

    #[test]
    fn what_is_no_json_ends() {
        for text in ["", "{", "{{{{", "[[[", "{\"a\"", "}{", "[1,,2", "nul", "{\"a\": }", "{a: 1}", "\"", "{\"a\":[}]}"] {
            assert!(line_of(text, "a.b[3]") >= 1, "{text}");
        }
        let deep = "[".repeat(5000);
        assert_eq!(line_of(&deep, "a"), 1);
    }
}

//! Lenient reading: leaves are taken as they come, parsed once, and every problem is collected.

use crate::problem::Problem;
use rauchkeller_core::plan::{FIELDS, Field};
use serde_json::{Map, Value};

/// Reads one object of a request, remembering which fields were asked for.
pub(crate) struct Reader<'a> {
    /// Where the object stands, as the table of fields has it.
    path: String,
    /// What stands before that path where it is shown: `method` for a document within a request.
    under: &'static str,
    fields: Option<&'a Map<String, Value>>,
    known: Vec<&'static str>,
}

/// Numbers as they were said, with the rows of the table they belong to.
pub(crate) type Numbers = Vec<(&'static Field, f64)>;

/// Cut off what was typed so that an answer never echoes a megabyte.
pub(crate) fn typed(value: &Value) -> String {
    let text = match value {
        Value::String(text) => text.clone(),
        other => other.to_string(),
    };
    let mut short: String = text.chars().take(60).collect();
    if short.len() < text.len() {
        short.push('…');
    }
    short
}

impl<'a> Reader<'a> {
    /// The object itself; anything but an object (or null) is a problem.
    pub(crate) fn root(value: &'a Value, problems: &mut Vec<Problem>) -> Self {
        Self::of("", "", value, problems)
    }

    /// A document within a request: its fields are those of a request, shown under its name.
    pub(crate) fn under(name: &'static str, value: &'a Value, problems: &mut Vec<Problem>) -> Self {
        Self::of("", name, value, problems)
    }

    fn of(path: &str, under: &'static str, value: &'a Value, problems: &mut Vec<Problem>) -> Self {
        let fields = value.as_object();
        if fields.is_none() && !value.is_null() {
            let field = if path.is_empty() { "request" } else { path };
            let shown = if under.is_empty() { field.to_owned() } else { format!("{under}.{path}") };
            let example = match field {
                "request" => r#"{ "piece": { "cut": "pork-belly", "weight_g": 2400 } }"#,
                "piece" => r#"{ "cut": "pork-belly", "weight_g": 2400 }"#,
                "piece.solution" => r#"{ "sodium_mg_per_100g": 240 }"#,
                _ => "the one `rauchkeller plan --example` prints",
            };
            problems.push(Problem::new(shown, typed(value), "an object in braces", format!("Write it like {example}.")));
        }
        Self { path: path.to_owned(), under, fields, known: vec![] }
    }

    /// An object inside.
    pub(crate) fn object(&mut self, name: &'static str, problems: &mut Vec<Problem>) -> Reader<'a> {
        let path = self.own_field(name);
        Reader::of(&path, self.under, self.get(name).unwrap_or(&Value::Null), problems)
    }

    /// Every element of a list, as readers.
    pub(crate) fn list(&mut self, name: &'static str, most: usize, problems: &mut Vec<Problem>) -> Vec<Reader<'a>> {
        let path = self.own_field(name);
        match self.get(name) {
            None | Some(Value::Null) => vec![],
            Some(Value::Array(items)) if items.len() <= most => {
                items.iter().enumerate().map(|(i, item)| Reader::of(&format!("{path}[{i}]"), self.under, item, problems)).collect()
            }
            Some(other) => {
                let said = other.as_array().map_or_else(|| typed(other), |items| format!("{} entries", items.len()));
                problems.push(Problem::new(
                    self.field(name),
                    said,
                    format!("a list of at most {most}"),
                    "Leave it out if there is nothing to say.",
                ));
                vec![]
            }
        }
    }

    /// Full path of a field here.
    pub(crate) fn field(&self, name: &str) -> String {
        if self.under.is_empty() { self.own_field(name) } else { format!("{}.{}", self.under, self.own_field(name)) }
    }

    fn own_field(&self, name: &str) -> String {
        if self.path.is_empty() { name.to_owned() } else { format!("{}.{name}", self.path) }
    }

    /// The raw value, null and missing alike as `None`.
    pub(crate) fn get(&mut self, name: &'static str) -> Option<&'a Value> {
        if !self.known.contains(&name) {
            self.known.push(name);
        }
        self.fields.and_then(|f| f.get(name)).filter(|v| !v.is_null())
    }

    /// A finite number; numeric strings are taken too.
    pub(crate) fn number(&mut self, name: &'static str, allowed: &str, problems: &mut Vec<Problem>) -> Option<f64> {
        let value = self.get(name)?;
        let number = match value {
            Value::Number(n) => n.as_f64(),
            Value::String(text) => text.trim().replace(',', ".").parse().ok(),
            _ => None,
        };
        let read = number.filter(|n| n.is_finite() && n.abs() < 1e12);
        if read.is_none() {
            problems.push(Problem::new(self.field(name), typed(value), allowed, "Write a plain number."));
        }
        read
    }

    /// Every number of the table of fields that stands directly in this object.
    pub(crate) fn numbers(&mut self, problems: &mut Vec<Problem>) -> Numbers {
        let rows: Vec<&'static Field> = FIELDS.iter().filter(|row| row.object() == self.path).collect();
        rows.into_iter().filter_map(|row| Some((row, self.number(row.leaf(), &row.allowed(), problems)?))).collect()
    }

    /// A text.
    pub(crate) fn text(&mut self, name: &'static str, allowed: &str, problems: &mut Vec<Problem>) -> Option<&'a str> {
        let value = self.get(name)?;
        let text = value.as_str();
        if text.is_none() {
            problems.push(Problem::new(self.field(name), typed(value), allowed, "Write it in quotes."));
        }
        text
    }

    /// Yes or no.
    pub(crate) fn flag(&mut self, name: &'static str, problems: &mut Vec<Problem>) -> bool {
        match self.get(name) {
            None => false,
            Some(Value::Bool(flag)) => *flag,
            Some(other) => {
                problems.push(Problem::new(self.field(name), typed(other), "true or false", "Leave it out for false."));
                false
            }
        }
    }

    /// Something with a stable name in a table.
    pub(crate) fn named<T>(
        &mut self,
        name: &'static str,
        find: impl Fn(&str) -> Option<T>,
        names: &[&str],
        problems: &mut Vec<Problem>,
    ) -> Option<T> {
        let text = self.text(name, &names.join(", "), problems)?;
        let found = find(text);
        if found.is_none() {
            let said = typed(&Value::String(text.to_owned()));
            problems.push(Problem::new(self.field(name), said, names.join(", "), "Choose one of these names."));
        }
        found
    }

    /// Fields nobody asked for are problems: a misspelt field must not be silently ignored.
    pub(crate) fn finish(self, problems: &mut Vec<Problem>) {
        let Some(fields) = self.fields else { return };
        for name in fields.keys().filter(|name| !self.known.contains(&name.as_str())).take(20) {
            let said: String = name.chars().take(60).collect();
            problems.push(Problem::new(
                self.field(&said),
                "a field this kitchen does not know",
                self.known.join(", "),
                "Correct its name or leave it out.",
            ));
        }
    }
}

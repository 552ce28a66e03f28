//! The command line's plan: the same types and the same answer as the API.

use clap::ValueEnum;
use jiff::ZonedDateTime;
use rauchkeller_contract::{EXAMPLE, Problem, Problems, cuts, ledger, methods, plan_from, read_request_text, salts};
use std::io::{Read, Write};
use std::path::PathBuf;
use std::process::ExitCode;

/// Largest request read.
const LIMIT: u64 = 64 * 1024;

/// A table of facts.
#[derive(Clone, Copy, ValueEnum)]
pub enum Table {
    /// Cuts.
    Cuts,
    /// Salts.
    Salts,
    /// Methods.
    Methods,
    /// Salty things.
    Ledger,
}

/// Prints text; a closed pipe is the reader's choice, not an error.
pub fn print(text: &str) -> ExitCode {
    let _ = std::io::stdout().write_all(text.as_bytes());
    ExitCode::SUCCESS
}

fn print_json(value: &impl serde::Serialize) -> ExitCode {
    match serde_json::to_string_pretty(value) {
        Ok(text) => print(&(text + "\n")),
        Err(error) => {
            eprintln!("{error}");
            ExitCode::FAILURE
        }
    }
}

/// Prints the example request.
pub fn example() -> ExitCode {
    print(EXAMPLE)
}

/// Prints a table.
pub fn list(what: Table) -> ExitCode {
    match what {
        Table::Cuts => print_json(&cuts()),
        Table::Salts => print_json(&salts()),
        Table::Methods => print_json(&methods()),
        Table::Ledger => print_json(&ledger()),
    }
}

fn refuse(problems: &Problems) -> ExitCode {
    print_json(problems);
    for problem in &problems.problems {
        eprintln!("{}: {}", problem.field, problem.sentence());
    }
    ExitCode::from(2)
}

fn one_problem(field: &str, typed: String, allowed: &str, remedy: &str) -> ExitCode {
    refuse(&Problems { problems: vec![Problem::new(field, typed, allowed, remedy)] })
}

/// Reads a request and prints its plan.
pub fn run(file: Option<PathBuf>) -> ExitCode {
    let path = file.unwrap_or_else(|| PathBuf::from("-"));
    let mut bytes = Vec::new();
    let read = if path.as_os_str() == "-" {
        std::io::stdin().take(LIMIT + 1).read_to_end(&mut bytes)
    } else {
        std::fs::File::open(&path).and_then(|file| file.take(LIMIT + 1).read_to_end(&mut bytes))
    };
    if let Err(error) = read {
        return one_problem("file", format!("{}: {error}", path.display()), "a file that can be read, or -", "Check its name.");
    }
    if bytes.len() as u64 > LIMIT {
        return one_problem(
            "request",
            "more than 64 KB".into(),
            "a request of at most 64 KB",
            "A piece and a method fit into a few; send one of each.",
        );
    }
    let value = match read_request_text(&String::from_utf8_lossy(&bytes)) {
        Ok(value) => value,
        Err(problem) => return refuse(&Problems { problems: vec![problem] }),
    };
    match plan_from(&value, &ZonedDateTime::now()) {
        Ok(plan) => print_json(&plan),
        Err(problems) => refuse(&problems),
    }
}

//! The binary: `serve`, `demo`, `plan`, `list`, `openapi`, `licences`, `devices`.

mod demo;
mod demo_chill;
mod devices;
mod plan;
mod serve;

use clap::{Parser, Subcommand};
use mimalloc::MiMalloc;
use std::path::PathBuf;
use std::process::ExitCode;

#[global_allocator]
static ALLOCATOR: MiMalloc = MiMalloc;

/// The bench-side companion of a cook who salts, scores and air-dries meat.
#[derive(Parser)]
#[command(version, about)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve against any database.
    Serve(serve::Options),
    /// Serve the demo kitchen: migrates, loads made-up pieces into an empty database, one press enters.
    Demo(serve::Options),
    /// Read a request and print the plan as JSON. Exit 2 with problems when it cannot be.
    Plan {
        /// A file, or - for standard input.
        #[arg(required_unless_present = "example")]
        file: Option<PathBuf>,
        /// Print a request to start from.
        #[arg(long)]
        example: bool,
    },
    /// Print a table of facts as JSON.
    List {
        /// Which table.
        what: plan::Table,
    },
    /// Print the OpenAPI document.
    Openapi,
    /// Print whose work the binary is made with, and under which licences.
    Licences,
    /// Run a simulated device that speaks the readings API.
    Devices {
        /// Which device.
        #[command(subcommand)]
        device: devices::Device,
    },
}

fn main() -> ExitCode {
    let filter = tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_| "warn,rauchkeller=info".into());
    tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr).init();
    match Cli::parse().command {
        Command::Serve(options) => serve::run(options, false),
        Command::Demo(options) => serve::run(options, true),
        Command::Plan { example: true, .. } => plan::example(),
        Command::Plan { file, .. } => plan::run(file),
        Command::List { what } => plan::list(what),
        Command::Openapi => plan::print(&rauchkeller_web::openapi()),
        Command::Licences => plan::print(include_str!("../../../THIRD-PARTY.txt")),
        Command::Devices { device } => devices::run(device),
    }
}

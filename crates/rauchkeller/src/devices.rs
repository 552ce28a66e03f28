//! Simulated devices, each a process of its own.

use clap::Subcommand;
use rauchkeller_devices::{ScaleOptions, run_scale};
use std::net::SocketAddr;
use std::path::PathBuf;
use std::process::ExitCode;

/// A simulated device.
#[derive(Subcommand)]
pub enum Device {
    /// A kitchen scale with a little page of its own: set a bowl on it, pour, tare, lift.
    Scale {
        /// The kitchen that gets its readings.
        #[arg(long, env = "KITCHEN_URL", default_value = "http://127.0.0.1:8080")]
        server: String,
        /// Its token, from the Kit; without one its page shows a code to pair it by.
        #[arg(long, env = "SCALE_TOKEN", hide_env_values = true)]
        token: Option<String>,
        /// A file in which it keeps the token of the kitchen it was paired with.
        #[arg(long)]
        memory: Option<PathBuf>,
        /// Where its own page listens.
        #[arg(long, default_value = "127.0.0.1:8090")]
        listen: SocketAddr,
        /// The smallest step it shows, in grams: 1 or 0.1.
        #[arg(long, default_value_t = 0.1)]
        step: f64,
    },
}

/// Runs it until the process ends.
pub fn run(device: Device) -> ExitCode {
    let Device::Scale { server, token, memory, listen, step } = device;
    if !(0.01..=5.0).contains(&step) {
        eprintln!("--step {step} is not possible: between 0.01 and 5 g is allowed. Most scales show 1 or 0.1 g.");
        return ExitCode::from(2);
    }
    let seed = jiff::Timestamp::now().as_microsecond().unsigned_abs();
    let runtime = match tokio::runtime::Builder::new_multi_thread().worker_threads(2).enable_all().build() {
        Ok(runtime) => runtime,
        Err(error) => {
            eprintln!("no runtime: {error}");
            return ExitCode::FAILURE;
        }
    };
    match runtime.block_on(run_scale(ScaleOptions { server, token, memory, listen, step_g: step, seed })) {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("the scale’s page cannot listen on {listen}: {error}");
            ExitCode::FAILURE
        }
    }
}

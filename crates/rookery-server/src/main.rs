//! The `rookery` command.

use clap::Parser;
use rookery_server::cli::Cli;
use std::process::ExitCode;

fn main() -> ExitCode {
    match Cli::parse().run() {
        Ok(()) => ExitCode::SUCCESS,
        Err(failure) => {
            eprintln!("rookery: {failure}");
            failure.exit_code()
        }
    }
}

//! Files that a command of the program is run on.

use serde_json::Value;
use std::path::PathBuf;
use std::process::Command;

/// A folder of files, which goes with it.
pub(crate) struct Files(PathBuf);

impl Files {
    /// Files by name, with what stands in them as CSV.
    pub(crate) fn new(name: &str, files: &[(&str, &str)]) -> Self {
        let folder = std::env::temp_dir().join(format!("zerofold-{name}-{}", std::process::id()));
        std::fs::create_dir_all(&folder).unwrap();
        for (file, content) in files {
            std::fs::write(folder.join(format!("{file}.csv")), content).unwrap();
        }
        Self(folder)
    }

    /// Runs a command that takes each file as what it is called: the exit status and what was printed.
    pub(crate) fn run(&self, command: &str, files: &[&str], more: &[&str]) -> (i32, String) {
        let mut run = Command::new(env!("CARGO_BIN_EXE_zerofold"));
        run.arg(command);
        for file in files {
            run.arg(format!("--{file}")).arg(self.0.join(format!("{file}.csv")));
        }
        let output = run.args(more).output().unwrap();
        (output.status.code().unwrap(), String::from_utf8(output.stdout).unwrap())
    }

    /// The same with one JSON object.
    pub(crate) fn run_json(&self, command: &str, files: &[&str], more: &[&str]) -> (i32, Value) {
        let (status, text) = self.run(command, files, &[more, &["--json"]].concat());
        (status, serde_json::from_str(&text).unwrap())
    }
}

impl Drop for Files {
    fn drop(&mut self) {
        std::fs::remove_dir_all(&self.0).unwrap();
    }
}

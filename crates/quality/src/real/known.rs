//! What is known of the rows of real charts.

use anyhow::Context;
use serde::Deserialize;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use zf_core::chart::Class;

/// What is known of a row.
#[derive(Deserialize)]
pub(super) struct Known {
    pub(super) class: Class,
    /// Whether its class is beyond doubt.
    pub(super) certain: bool,
    pub(super) contra: bool,
}

/// A folder of real charts.
pub(super) struct Key {
    folder: PathBuf,
    /// By the name of a chart, by the code of a row.
    pub(super) charts: BTreeMap<String, BTreeMap<String, Known>>,
}

impl Key {
    /// Reads what is known.
    pub(super) fn read(folder: &Path) -> anyhow::Result<Self> {
        let path = folder.join("key.json");
        let text = std::fs::read_to_string(&path)
            .with_context(|| format!("{} cannot be read", path.display()))?;
        let charts = serde_json::from_str(&text)
            .with_context(|| format!("{} is not understood", path.display()))?;
        Ok(Self { folder: folder.to_owned(), charts })
    }

    /// The files of a chart, by name.
    pub(super) fn files(&self, chart: &str) -> anyhow::Result<Vec<PathBuf>> {
        let files = std::fs::read_dir(&self.folder)?.map(|file| Ok(file?.path()));
        let mut files = files.collect::<anyhow::Result<Vec<PathBuf>>>()?;
        files.retain(|path| {
            let name = path.file_name().unwrap_or_default().to_string_lossy();
            name.strip_prefix(chart).is_some_and(|rest| rest.starts_with('-'))
        });
        files.sort();
        Ok(files)
    }
}

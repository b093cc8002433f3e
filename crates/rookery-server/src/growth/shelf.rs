//! What is dear to compute and small, kept in files so that the next start finds it: how species look.
//!
//! A file is named by the program that made it and by what it depends on, and carries the sum of its bytes: one that is torn, or that
//! another build made, is as good as none. Losing the folder loses nothing but time.

use rookery_core::scene::ContentKey;
use std::fs::{self, File, Metadata};
use std::io::{self, Read, Write};
use std::os::unix::fs::DirBuilderExt;
use std::path::PathBuf;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, OnceLock};
use std::time::{Duration, SystemTime};

/// The most bytes that are left after tidying up.
const CEILING: u64 = 1 << 30;
/// Files that were not used for so long are taken away.
const UNUSED: Duration = Duration::from_secs(30 * 24 * 3600);
/// Bytes of the sum at the start of a file.
const SUM: usize = 32;

/// A folder of derived data. Cloning shares it.
#[derive(Clone, Debug)]
pub struct Shelf(Arc<Inner>);

#[derive(Debug)]
struct Inner {
    dir: PathBuf,
    /// The sum of the running program, worked out when it is first asked for.
    build: OnceLock<Option<String>>,
    next: AtomicU64,
}

impl Shelf {
    /// A shelf in a folder, which is made for this user alone where it is missing.
    ///
    /// # Errors
    /// When it cannot be made.
    pub fn at(dir: PathBuf) -> io::Result<Self> {
        fs::DirBuilder::new().recursive(true).mode(0o700).create(&dir)?;
        Ok(Self(Arc::new(Inner { dir, build: OnceLock::new(), next: AtomicU64::new(0) })))
    }

    /// Where it is kept when nothing is said: `rookery` in the user's folder for what can be made again. None where there is no such
    /// folder.
    ///
    /// Source: XDG Base Directory Specification 0.8, `XDG_CACHE_HOME`.
    pub fn usual_dir() -> Option<PathBuf> {
        let named = |name| std::env::var_os(name).map(PathBuf::from).filter(|dir| dir.is_absolute());
        let caches = named("XDG_CACHE_HOME").or_else(|| named("HOME").map(|home| home.join(".cache")))?;
        Some(caches.join("rookery"))
    }

    fn file(&self, kind: &str, key: &ContentKey) -> Option<PathBuf> {
        let build = self.0.build.get_or_init(|| sum_of_program().ok()).as_ref()?;
        Some(self.0.dir.join(format!("{kind}-{build}-{key}")))
    }

    /// What is there under this name, whole.
    fn get(&self, kind: &str, key: &ContentKey) -> Option<Vec<u8>> {
        let file = File::options().read(true).write(true).open(self.file(kind, key)?).ok()?;
        let mut bytes = Vec::new();
        (&file).take(CEILING).read_to_end(&mut bytes).ok()?;
        let (sum, content) = bytes.split_at_checked(SUM)?;
        if sum != blake3::hash(content).as_bytes() {
            return None;
        }
        // Used just now; where that cannot be written down it only goes sooner.
        let _ = file.set_modified(SystemTime::now());
        Some(content.to_vec())
    }

    fn put(&self, kind: &str, key: &ContentKey, bytes: &[u8]) -> io::Result<()> {
        let Some(file) = self.file(kind, key) else { return Ok(()) };
        let number = self.0.next.fetch_add(1, Ordering::Relaxed);
        let half = self.0.dir.join(format!("half-{}-{number}", std::process::id()));
        let mut out = File::create(&half)?;
        let written = out.write_all(blake3::hash(bytes).as_bytes()).and_then(|()| out.write_all(bytes));
        // It gets its name once it is whole.
        let named = written.and_then(|()| fs::rename(&half, file));
        if named.is_err() {
            let _ = fs::remove_file(&half);
        }
        named
    }

    /// What has this name: from the shelf, or made and put there. A shelf that is full or gone is no fault of who asks.
    ///
    /// # Errors
    /// Those of the making.
    pub fn get_or_make<E>(
        shelf: Option<&Self>,
        kind: &str,
        key: &ContentKey,
        make: impl FnOnce() -> Result<Vec<u8>, E>,
    ) -> Result<Vec<u8>, E> {
        let Some(shelf) = shelf else { return make() };
        if let Some(found) = shelf.get(kind, key) {
            return Ok(found);
        }
        let made = make()?;
        if let Err(e) = shelf.put(kind, key, &made) {
            tracing::warn!(error = %e, dir = %shelf.0.dir.display(), "what was computed could not be put aside");
        }
        Ok(made)
    }

    /// Takes away what was not used for long, then the longest unused until the rest fits.
    ///
    /// # Errors
    /// When the folder cannot be read.
    pub fn tidy(&self) -> io::Result<()> {
        self.tidy_to(CEILING, SystemTime::now())
    }

    fn tidy_to(&self, ceiling: u64, now: SystemTime) -> io::Result<()> {
        let used = |about: &Metadata| about.modified().unwrap_or(SystemTime::UNIX_EPOCH);
        let mut files: Vec<(SystemTime, u64, PathBuf)> = fs::read_dir(&self.0.dir)?
            .filter_map(|entry| {
                let entry = entry.ok()?;
                let about = entry.metadata().ok().filter(Metadata::is_file)?;
                Some((used(&about), about.len(), entry.path()))
            })
            .collect();
        files.sort();
        let mut bytes: u64 = files.iter().map(|(_, length, _)| length).sum();
        for (used, length, path) in files {
            let unused = now.duration_since(used).is_ok_and(|d| d > UNUSED);
            if unused || bytes > ceiling {
                // Another server may have taken it away already.
                let _ = fs::remove_file(path);
                bytes -= length;
            }
        }
        Ok(())
    }
}

/// The sum of the running program's file: another build may compute otherwise.
fn sum_of_program() -> io::Result<String> {
    let mut sum = blake3::Hasher::new();
    sum.update_reader(File::open("/proc/self/exe")?)?;
    Ok(sum.finalize().as_bytes().iter().take(12).map(|byte| format!("{byte:02x}")).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use rookery_core::scene::content_key;

    fn shelf(name: &str) -> Shelf {
        let dir = std::env::temp_dir().join(format!("rookery-shelf-{name}-{}", std::process::id()));
        let _ = fs::remove_dir_all(&dir);
        Shelf::at(dir).unwrap()
    }

    fn taken(shelf: &Shelf, i: u32, make: &str) -> String {
        let made = Shelf::get_or_make(Some(shelf), "word", &content_key("test", &i), || {
            Ok::<_, ()>(make.as_bytes().to_vec())
        });
        String::from_utf8(made.unwrap()).unwrap()
    }

    #[test]
    fn the_next_start_finds_what_was_made_and_a_torn_file_is_as_good_as_none() {
        let first = shelf("finds");
        assert_eq!(taken(&first, 1, "fescue"), "fescue");
        let next = Shelf::at(first.0.dir.clone()).unwrap();
        assert_eq!(taken(&next, 1, "made again"), "fescue");
        assert_eq!(taken(&next, 2, "marram"), "marram");
        for entry in fs::read_dir(&next.0.dir).unwrap() {
            let path = entry.unwrap().path();
            let length = fs::metadata(&path).unwrap().len();
            File::options().write(true).open(path).unwrap().set_len(length - 1).unwrap();
        }
        assert_eq!(taken(&next, 1, "thrift"), "thrift");
        assert_eq!(taken(&next, 1, "made again"), "thrift");
        // A file shorter than its sum, and one of another build.
        let path = next.file("word", &content_key("test", &2)).unwrap();
        fs::write(&path, b"short").unwrap();
        assert_eq!(taken(&next, 2, "moss"), "moss");
        let other = Shelf::at(next.0.dir.clone()).unwrap();
        other.0.build.set(Some("another".to_owned())).unwrap();
        assert_eq!(taken(&other, 2, "sedge"), "sedge");
        fs::remove_dir_all(&next.0.dir).unwrap();
        // A folder that is gone does not stop anybody.
        assert_eq!(taken(&next, 3, "heather"), "heather");
    }

    #[test]
    fn the_longest_unused_goes_first() {
        let shelf = shelf("tidy");
        let now = SystemTime::now();
        for (i, days) in [(1, 40), (2, 3), (3, 1)] {
            taken(&shelf, i, "0123456789");
            let path = shelf.file("word", &content_key("test", &i)).unwrap();
            let used = now - Duration::from_secs(days * 24 * 3600);
            File::options().write(true).open(path).unwrap().set_modified(used).unwrap();
        }
        let left = || fs::read_dir(&shelf.0.dir).unwrap().count();
        shelf.tidy_to(1000, now).unwrap();
        assert_eq!(left(), 2, "what was not used for a month is gone");
        shelf.tidy_to(50, now).unwrap();
        assert_eq!(left(), 1);
        assert_eq!((taken(&shelf, 3, "anew").len(), taken(&shelf, 2, "anew").len()), (10, 4));
        fs::remove_dir_all(&shelf.0.dir).unwrap();
    }
}

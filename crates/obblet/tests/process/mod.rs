//! What the system says of the process that a test runs in.

/// The most memory this process has held so far, in bytes.
pub(crate) fn peak() -> usize {
    let status = std::fs::read_to_string("/proc/self/status").unwrap();
    let line = status.lines().find(|line| line.starts_with("VmHWM:")).unwrap();
    let kibibytes: usize = line.split_whitespace().nth(1).unwrap().parse().unwrap();
    kibibytes * 1024
}

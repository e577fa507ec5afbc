//! Workers that take jobs one after the other, and go on without one that takes too long.

use obblet::Cancel;
use std::collections::HashMap;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::sync::mpsc::{self, Receiver, RecvTimeoutError, Sender};
use std::thread::{self, JoinHandle};
use std::time::{Duration, Instant};

/// What is done for a job, by its number.
pub(crate) type Work<R> = dyn Fn(usize, &Cancel) -> R + Send + Sync;

/// How a job ended.
#[derive(Debug)]
pub(crate) enum Ended<R> {
    /// With a result.
    Done(R),
    /// It panicked.
    BrokeOff,
    /// It took longer than anybody wants to wait.
    TookTooLong,
}

/// What the workers are told.
pub(crate) struct PoolOptions<'s> {
    /// How many work at once.
    pub(crate) workers: usize,
    /// How long one job may take.
    pub(crate) patience: Duration,
    /// Whether no further jobs are to be begun.
    pub(crate) is_stopped: &'s dyn Fn() -> bool,
}

/// How often somebody looks whether a job takes too long.
const LOOK: Duration = Duration::from_millis(100);

/// The stack of a worker: as large as that of a main thread.
const STACK: usize = 8 << 20;

enum Message<R> {
    Begins(usize, usize),
    Ends(usize, usize, Ended<R>),
}

/// Does `count` jobs, and says in the order in which they end how each has ended. Jobs that were
/// never begun, because somebody stopped the run, are not told.
///
/// A job gets what tells it that it takes too long. From then on nobody waits for it, even if it goes on
/// beside the others.
///
/// # Errors
/// What the system says when it gives no worker at all.
pub(crate) fn run<R: Send + 'static>(
    count: usize,
    options: &PoolOptions<'_>,
    work: Arc<Work<R>>,
    mut ended: impl FnMut(usize, Ended<R>),
) -> std::io::Result<()> {
    let (sender, messages) = mpsc::channel();
    let shared = Shared {
        next: Arc::new(AtomicUsize::new(0)),
        count,
        stopped: Arc::new(AtomicBool::new(false)),
        work,
        sender,
    };
    let mut pool = Pool { shared, busy: HashMap::new(), hired: HashMap::new(), workers: 0 };
    for _ in 0..options.workers.min(count) {
        match pool.hire() {
            Err(error) if pool.workers == 0 => return Err(error),
            _ => {}
        }
    }
    pool.attend(&messages, options, &mut ended);
    pool.dismiss();
    Ok(())
}

struct Shared<R> {
    next: Arc<AtomicUsize>,
    count: usize,
    stopped: Arc<AtomicBool>,
    work: Arc<Work<R>>,
    sender: Sender<Message<R>>,
}

impl<R> Clone for Shared<R> {
    fn clone(&self) -> Self {
        Self {
            next: self.next.clone(),
            count: self.count,
            stopped: self.stopped.clone(),
            work: self.work.clone(),
            sender: self.sender.clone(),
        }
    }
}

struct Pool<R> {
    shared: Shared<R>,
    /// The job of each worker that has one, and since when.
    busy: HashMap<usize, (usize, Instant)>,
    /// Those that somebody waits for, each with what tells it that nobody does any more.
    hired: HashMap<usize, (Cancel, JoinHandle<()>)>,
    workers: usize,
}

impl<R: Send + 'static> Pool<R> {
    fn hire(&mut self) -> std::io::Result<()> {
        let number = self.workers;
        let retired = Cancel::default();
        let (shared, flag) = (self.shared.clone(), retired.clone());
        let thread = thread::Builder::new().stack_size(STACK);
        let thread = thread.spawn(move || worker(number, &shared, &flag))?;
        self.hired.insert(number, (retired, thread));
        self.workers += 1;
        Ok(())
    }

    fn attend(
        &mut self,
        messages: &Receiver<Message<R>>,
        options: &PoolOptions<'_>,
        ended: &mut impl FnMut(usize, Ended<R>),
    ) {
        let mut begun = 0;
        let mut open = 0;
        let mut last_look = Instant::now();
        loop {
            let is_over = begun >= self.shared.count || self.shared.stopped.load(Ordering::SeqCst);
            if is_over && open == 0 && self.nothing_begins(begun) {
                return;
            }
            match messages.recv_timeout(LOOK) {
                Ok(Message::Begins(worker, job)) => {
                    begun += 1;
                    open += 1;
                    self.busy.insert(worker, (job, Instant::now()));
                }
                Ok(Message::Ends(worker, job, how)) => {
                    // Of a worker that was given up nobody wants to know.
                    if self.busy.remove(&worker).is_some() {
                        open -= 1;
                        ended(job, how);
                    }
                }
                Err(RecvTimeoutError::Timeout) => {}
                Err(RecvTimeoutError::Disconnected) => return,
            }
            if last_look.elapsed() >= LOOK {
                last_look = Instant::now();
                if (options.is_stopped)() {
                    self.shared.stopped.store(true, Ordering::SeqCst);
                }
                for job in self.give_up_slow_ones(options.patience) {
                    open -= 1;
                    ended(job, Ended::TookTooLong);
                }
            }
        }
    }

    /// Whether all jobs that were taken have been told of.
    fn nothing_begins(&self, begun: usize) -> bool {
        self.shared.next.load(Ordering::SeqCst).min(self.shared.count) <= begun
    }

    /// Waits until those that were not given up are gone, with all that they hold.
    fn dismiss(self) {
        for (_, thread) in self.hired.into_values() {
            // Panics end in the worker.
            let _ = thread.join();
        }
    }

    /// Gives up the workers that have been too long at one job, and hires others.
    fn give_up_slow_ones(&mut self, patience: Duration) -> Vec<usize> {
        let slow: Vec<usize> = self
            .busy
            .iter()
            .filter(|(_, (_, since))| since.elapsed() > patience)
            .map(|(worker, _)| *worker)
            .collect();
        let mut jobs = Vec::new();
        for worker in slow {
            if let Some((retired, _)) = self.hired.remove(&worker) {
                retired.cancel();
            }
            jobs.extend(self.busy.remove(&worker).map(|(job, _)| job));
            // Without another one the rest has to do.
            let _ = self.hire();
        }
        jobs
    }
}

fn worker<R>(number: usize, shared: &Shared<R>, retired: &Cancel) {
    while !retired.is_cancelled() && !shared.stopped.load(Ordering::SeqCst) {
        let job = shared.next.fetch_add(1, Ordering::SeqCst);
        if job >= shared.count || shared.sender.send(Message::Begins(number, job)).is_err() {
            return;
        }
        let done = catch_unwind(AssertUnwindSafe(|| (shared.work)(job, retired)));
        let how = done.map_or(Ended::BrokeOff, Ended::Done);
        if shared.sender.send(Message::Ends(number, job, how)).is_err() {
            return;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn ends(count: usize, patience: Duration, work: fn(usize, &Cancel) -> usize) -> Vec<String> {
        let options = PoolOptions { workers: 2, patience, is_stopped: &|| false };
        let mut ends = Vec::new();
        let done = run(count, &options, Arc::new(work), |job, how| {
            ends.push(format!("{job:02} {how:?}"));
        });
        assert!(done.is_ok());
        ends.sort();
        ends
    }

    #[test]
    fn every_job_ends_once_whatever_the_others_do() {
        let work = |job, _: &Cancel| match job {
            3 => panic!("on purpose"),
            job => job * 2,
        };
        let expected: Vec<String> = (0..50)
            .map(|job| match job {
                3 => "03 BrokeOff".to_string(),
                job => format!("{job:02} Done({})", job * 2),
            })
            .collect();
        assert_eq!(ends(50, Duration::from_secs(60), work), expected);
    }

    #[test]
    fn a_slow_job_is_given_up() {
        let work = |job, _: &Cancel| {
            if job % 2 == 0 {
                thread::sleep(Duration::from_secs(3));
            }
            job
        };
        let expected = ["00 TookTooLong", "01 Done(1)", "02 TookTooLong", "03 Done(3)"];
        assert_eq!(ends(4, Duration::from_millis(300), work), expected);
    }

    #[test]
    fn nothing_new_begins_once_somebody_stops() {
        let options =
            PoolOptions { workers: 2, patience: Duration::from_secs(60), is_stopped: &|| true };
        let mut count = 0;
        let work = |_, _: &Cancel| thread::sleep(Duration::from_millis(30));
        assert!(run(1000, &options, Arc::new(work), |_, _| count += 1).is_ok());
        assert!((1..100).contains(&count), "{count}");
    }
}

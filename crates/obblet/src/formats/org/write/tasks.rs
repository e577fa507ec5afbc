//! The states of tasks.

use super::Writer;

impl<'d> Writer<'d> {
    /// The words of tasks that every Org file knows need no line.
    pub(super) fn task_states(&mut self) {
        let known = [("TODO", false), ("DONE", true)];
        if self.survey.states.iter().all(|state| known.contains(state)) {
            return;
        }
        let words = |done: bool| -> Vec<&str> {
            let states = self.survey.states.iter().filter(|(_, is_done)| *is_done == done);
            states.map(|(word, _)| *word).collect()
        };
        let (mut open, mut done) = (words(false), words(true));
        for (list, word) in [(&mut open, "TODO"), (&mut done, "DONE")] {
            if !list.contains(&word) {
                list.insert(0, word);
            }
        }
        let line = format!("{} | {}", open.join(" "), done.join(" "));
        self.keyword("todo", &line);
    }
}

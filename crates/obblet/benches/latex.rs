//! A LaTeX book to an HTML body, against html5ever parsing that body.
//!
//! The result is checked before anything is timed.
//!
//! ```text
//! cargo bench -p obblet --bench latex
//! ```

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a bench fails by panicking")]

mod ratio;

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::RcDom;
use obblet::{Format, WriteOptions, convert};

/// Bytes of the book.
const BOOK: usize = 2 << 20;

/// One chapter: text with formats, macros, references, notes, lists, a table, a figure, formulas.
const CHAPTER: &str = r"\chapter{The wheel turns}\label{ch:NUMBER}
The miller of \mill{} opened the \emph{sluice} at half past four, as every day since the year 1893, and
the water of the pond went \textbf{under the wheel} and out to sea --- ``as it ought to'', he said. Of
what the wheel gave, the stones took the most; the rest went into the hoist and, some winters, the lamp.

When the moon was new the tide ran high, and the wheel turned for five hours and a quarter; when it
was at its half, the pond filled only to the third mark, and there was little to grind.\footnote{The
marks are of oak, and older than the mill.} See chapter~\ref{ch:NUMBER} and table~\ref{tab:NUMBER}.

\section{What it gives}
The power is $P = \rho g Q H$, where $H$ is the head and $Q$ what flows. For a day,
\begin{equation}\label{eq:NUMBER}
E = \int_0^T P\,\mathrm{d}t = \rho g \int_0^T Q(t) H(t)\,\mathrm{d}t .
\end{equation}
\begin{itemize}
\item Oak for the floats, elm for the \emph{race}, and iron where water and wood would not agree.
\item A gate that a child can lift, because it once had to.
\end{itemize}
\begin{table}
\caption{Heads of a week}\label{tab:NUMBER}
\begin{tabular}{lrr}
\toprule
Day & Head & Hours \\
\midrule
Monday & 3.2 & 5 \\
Tuesday & 3.0 & 5 \\
Wednesday & 2.7 & 4 \\
\bottomrule
\end{tabular}
\end{table}

";

fn main() {
    let (size, rounds) = ratio::workload(BOOK);
    let chapters = size / CHAPTER.len();
    let mut book = String::from(
        "\\documentclass{book}\n\\newcommand{\\mill}{the \\emph{Marrowby} mill}\n\\begin{document}\n",
    );
    for number in 0..chapters {
        book.push_str(&CHAPTER.replace("NUMBER", &number.to_string()));
    }
    book.push_str("\\end{document}\n");
    let html = converted(&book);
    let count = |wanted: &str| html.matches(wanted).count();
    assert_eq!(
        (count("<h1"), count("<table"), count("<math"), count("doc-noteref")),
        (chapters, chapters, chapters * 4, chapters)
    );
    println!("book {} bytes, page {} bytes, {rounds} rounds", book.len(), html.len());
    let ours = || converted(&book).len();
    let reference = || parse_document(RcDom::default(), ParseOpts::default()).one(html.as_str());
    ratio::report("LaTeX to HTML", "html5ever on that HTML", book.len(), rounds, ours, reference);
}

fn converted(book: &str) -> String {
    let options = WriteOptions::house("body").expect("a built-in house");
    let written = convert(book.as_bytes(), Format::Latex, &options).expect("LaTeX");
    String::from_utf8(written.bytes).expect("HTML is text")
}

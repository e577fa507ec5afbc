//! Column specifications of tables.

use crate::document::{CellAlign, Column};

/// The columns of a specification such as `|l|cc|p{3cm}|`.
pub(super) fn columns(specification: &str) -> Vec<Column> {
    let mut columns = Vec::new();
    push_columns(specification, &mut columns, &mut LONGEST.max(2 * specification.len()));
    columns
}

/// What a repeated specification may grow to.
const WIDEST: usize = 1_000;

/// Bytes of a specification that may be read, its repetitions counted; twice its own in any case.
const LONGEST: usize = 40_000;

fn push_columns(specification: &str, columns: &mut Vec<Column>, left: &mut usize) {
    let mut rest = specification.trim();
    let mut align = None;
    while let Some(sign) = rest.chars().next() {
        let before = rest.len();
        rest = rest.get(sign.len_utf8()..).unwrap_or_default();
        if columns.len() >= WIDEST || *left == 0 {
            return;
        }
        let plain = |align| Column { align, ..Column::default() };
        match sign {
            'l' => columns.push(plain(align.take().or(Some(CellAlign::Start)))),
            'c' => columns.push(plain(Some(CellAlign::Centre))),
            'r' | 'S' | 'R' => {
                rest = skip_option(rest);
                columns.push(plain(Some(CellAlign::End)));
            }
            'C' => columns.push(plain(Some(CellAlign::Centre))),
            'X' | 'L' | 'J' | 'Y' => {
                rest = skip_option(rest);
                columns.push(plain(align.take()));
            }
            'p' | 'm' | 'b' | 'w' | 'W' | 'Q' => {
                let (first, behind) = argument(rest);
                let (width, behind) = match sign {
                    'w' | 'W' => {
                        align = aligned(first);
                        argument(behind)
                    }
                    _ => (first, behind),
                };
                rest = behind;
                columns.push(Column {
                    align: align.take(),
                    width: share(width),
                    ..Column::default()
                });
            }
            '>' => {
                let (before, behind) = argument(rest);
                align = declared(before).or(align);
                rest = behind;
            }
            '@' | '!' | '<' => rest = argument(rest).1,
            '*' => {
                let (count, behind) = argument(rest);
                let (repeated, behind) = argument(behind);
                let count = count.trim().parse::<usize>().unwrap_or(0).min(WIDEST);
                let count = if repeated.is_empty() { 0 } else { count };
                // Braces are looked for at each level again.
                *left = left.saturating_sub(repeated.len());
                for _ in 0..count {
                    push_columns(repeated, columns, left);
                }
                rest = behind;
            }
            _ => {}
        }
        *left = left.saturating_sub(before.saturating_sub(rest.len()));
    }
}

/// An argument in braces or of one sign, and what is behind it.
fn argument(text: &str) -> (&str, &str) {
    let text = text.trim_start();
    let Some(inside) = text.strip_prefix('{') else {
        let length = text.chars().next().map_or(0, char::len_utf8);
        return text.split_at(length);
    };
    let mut depth = 0_usize;
    for (at, byte) in inside.bytes().enumerate() {
        match byte {
            b'{' => depth += 1,
            b'}' if depth == 0 => {
                return (
                    inside.get(..at).unwrap_or_default(),
                    inside.get(at + 1..).unwrap_or_default(),
                );
            }
            b'}' => depth -= 1,
            _ => {}
        }
    }
    (inside, "")
}

fn skip_option(text: &str) -> &str {
    match text.strip_prefix('[') {
        Some(rest) => rest.split_once(']').map_or("", |(_, behind)| behind),
        None => text,
    }
}

fn aligned(letter: &str) -> Option<CellAlign> {
    match letter.trim() {
        "l" => Some(CellAlign::Start),
        "c" => Some(CellAlign::Centre),
        "r" => Some(CellAlign::End),
        _ => None,
    }
}

/// What is put before each cell of a column says how it is aligned.
fn declared(commands: &str) -> Option<CellAlign> {
    match commands {
        _ if commands.contains(r"\centering") || commands.contains(r"\Centering") => {
            Some(CellAlign::Centre)
        }
        _ if commands.contains(r"\raggedleft") => Some(CellAlign::End),
        _ if commands.contains(r"\raggedright") => Some(CellAlign::Start),
        _ => None,
    }
}

/// A width as a share of the line.
fn share(width: &str) -> Option<f32> {
    const WIDTHS: [&str; 4] = [r"\textwidth", r"\linewidth", r"\columnwidth", r"\hsize"];
    let width = width.trim();
    if let Some(number) = WIDTHS.iter().find_map(|name| width.strip_suffix(name)) {
        return number.trim().parse().ok().filter(|share| (0.01..=1.0).contains(share));
    }
    let unit_at = width.find(|c: char| c.is_ascii_alphabetic())?;
    let (number, unit) = width.split_at(unit_at);
    let points = match unit {
        "cm" => 28.45,
        "mm" => 2.845,
        "in" => 72.27,
        "pt" => 1.0,
        "em" => 10.0,
        _ => return None,
    };
    let share = number.trim().parse::<f32>().ok()? * points / 345.0;
    (0.01..=1.0).contains(&share).then(|| (share * 100.0).round() / 100.0)
}

/// How a cell over several columns is aligned.
pub(super) fn alignment(specification: &str) -> Option<CellAlign> {
    columns(specification).first().and_then(|column| column.align)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn specifications_are_columns() {
        let signs = |specification: &str| -> String {
            let sign = |column: &Column| match column.align {
                Some(CellAlign::Start) => 'l',
                Some(CellAlign::Centre) => 'c',
                Some(CellAlign::End) => 'r',
                None => '-',
            };
            columns(specification).iter().map(sign).collect()
        };
        for (specification, wanted) in [
            ("lcr", "lcr"),
            ("|l|c|r|", "lcr"),
            ("@{}l@{\\hspace{1em}}r@{}", "lr"),
            ("*{3}{c}l", "cccl"),
            (">{\\centering\\arraybackslash}p{3cm}X", "c-"),
            ("S[table-format=2.1]l", "rl"),
            ("*{999999}{*{9999}{c}}", &"c".repeat(WIDEST)),
            (&format!("{}l{}", "*{9}{".repeat(40), "}".repeat(40)), &"l".repeat(WIDEST)),
            (&format!("{}{}", "*{9}{".repeat(40), "}".repeat(40)), ""),
            (&"*{999}{*{999}{@{}}}".repeat(20), ""),
            ("*{2}{*{2}{*{2}{l}}}c", "llllllllc"),
            ("w{c}{2cm}", "c"),
        ] {
            assert_eq!(signs(specification), wanted, "{specification}");
        }
        assert_eq!(columns(r"p{0.25\textwidth}")[0].width, Some(0.25));
    }
}

//! Charts as SVG: readable in one colour scheme, with a title and a description for who does not see
//! them. Sizes are in CSS pixels.

use super::{Chart, ChartKind, spelled};
use std::f64::consts::TAU;
use std::fmt::Write as _;

/// Colours that differ in lightness too, for readers who do not see all colours.
const COLOURS: [&str; 8] =
    ["#0a5a6b", "#c9862a", "#6b8e4e", "#8a4a6b", "#4a5d8a", "#b5563c", "#7a7a7a", "#2f7d5b"];

/// The most values that are drawn one by one; of more, nobody sees the single one.
const MOST_VALUES: usize = 20_000;

/// Where the values stand inside the picture.
struct Frame {
    left: f64,
    top: f64,
    width: f64,
    height: f64,
}

/// The least and greatest value shown, and the step of the lines between them.
struct Scale {
    least: f64,
    greatest: f64,
    step: f64,
}

/// The chart as a picture of this size.
pub(crate) fn draw(chart: &Chart, width: f64, height: f64) -> String {
    let (width, height) = (width.clamp(160.0, 2000.0), height.clamp(120.0, 2000.0));
    let mut svg = Svg::new(width, height, chart);
    let mut top = 12.0;
    if !chart.title.is_empty() {
        top += 22.0;
        svg.text(width / 2.0, 24.0, "middle", 16.0, &chart.title);
    }
    let legend = chart.series.len() > 1 || chart.kind == ChartKind::Pie;
    let bottom = if legend { 44.0 } else { 22.0 };
    let space_for_title = |title: &str| if title.is_empty() { 0.0 } else { 18.0 };
    let frame = Frame {
        left: 52.0 + space_for_title(&chart.value_title),
        top,
        width: width - 66.0 - space_for_title(&chart.value_title),
        height: height - top - bottom - 12.0 - space_for_title(&chart.category_title),
    };
    match chart.kind {
        ChartKind::Pie => svg.pie(chart, &frame),
        ChartKind::Points => svg.points(chart, &frame),
        ChartKind::Bars => svg.bars(chart, &frame),
        ChartKind::Columns | ChartKind::Lines | ChartKind::Areas => svg.columns(chart, &frame),
    }
    if legend {
        svg.legend(&legend_names(chart), width, height - 12.0);
    }
    svg.finish()
}

fn legend_names(chart: &Chart) -> Vec<String> {
    if chart.kind == ChartKind::Pie {
        return chart.categories();
    }
    chart.series.iter().map(|series| series.name.clone()).collect()
}

struct Svg {
    out: String,
    height: f64,
}

impl Svg {
    fn new(width: f64, height: f64, chart: &Chart) -> Self {
        let names: Vec<&str> = chart.series.iter().map(|series| series.name.as_str()).collect();
        let mut out = format!(
            "<svg xmlns=\"http://www.w3.org/2000/svg\" role=\"img\" viewBox=\"0 0 {w} {h}\" \
             width=\"{w}\" height=\"{h}\" font-family=\"sans-serif\" font-size=\"12\">\n",
            w = short(width),
            h = short(height)
        );
        let _ = writeln!(out, "<title>{}</title>", escaped(&chart.title));
        let _ = writeln!(out, "<desc>{}</desc>", escaped(&names.join(", ")));
        let _ = writeln!(out, "<rect width=\"100%\" height=\"100%\" fill=\"#fff\"/>");
        Self { out, height }
    }

    fn finish(mut self) -> String {
        self.out.push_str("</svg>\n");
        self.out
    }

    fn text(&mut self, x: f64, y: f64, anchor: &str, size: f64, text: &str) {
        let _ = writeln!(
            self.out,
            "<text x=\"{}\" y=\"{}\" text-anchor=\"{anchor}\" font-size=\"{size}\">{}</text>",
            short(x),
            short(y),
            escaped(text)
        );
    }

    fn turned_text(&mut self, x: f64, y: f64, text: &str) {
        let (x, y) = (short(x), short(y));
        let _ = writeln!(
            self.out,
            "<text x=\"{x}\" y=\"{y}\" text-anchor=\"middle\" transform=\"rotate(-90 {x} {y})\">{}</text>",
            escaped(text)
        );
    }

    fn line(&mut self, from: (f64, f64), to: (f64, f64), colour: &str) {
        let _ = writeln!(
            self.out,
            "<line x1=\"{}\" y1=\"{}\" x2=\"{}\" y2=\"{}\" stroke=\"{colour}\"/>",
            short(from.0),
            short(from.1),
            short(to.0),
            short(to.1)
        );
    }

    fn rect(&mut self, x: f64, y: f64, width: f64, height: f64, colour: &str) {
        let _ = writeln!(
            self.out,
            "<rect x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" fill=\"{colour}\"/>",
            short(x),
            short(y),
            short(width.max(0.0)),
            short(height.max(0.0))
        );
    }

    fn legend(&mut self, names: &[String], width: f64, y: f64) {
        let wide = |name: &String| 26.0 + name.chars().count() as f64 * 6.6;
        let total: f64 = names.iter().map(wide).sum();
        let mut x = ((width - total) / 2.0).max(8.0);
        for (at, name) in names.iter().enumerate().take(24) {
            self.rect(x, y - 9.0, 10.0, 10.0, colour(at));
            self.text(x + 14.0, y, "start", 12.0, name);
            x += wide(name);
        }
    }

    /// Values up and down, categories across: columns, lines and areas.
    fn columns(&mut self, chart: &Chart, frame: &Frame) {
        let categories = chart.categories();
        let scale = scale_of(chart);
        self.value_axis(chart, frame, &scale);
        let slot = frame.width / categories.len().max(1) as f64;
        self.category_names(&categories, frame, slot);
        self.titles(chart, frame);
        let y = |value: f64| frame.top + frame.height * (1.0 - scale.share(value));
        let mut piled = vec![(0.0, 0.0); categories.len()];
        for (at, series) in chart.series.iter().enumerate() {
            let mut trace: Vec<(f64, f64)> = Vec::new();
            for (index, value) in series.values.iter().enumerate().take(MOST_VALUES) {
                let Some(value) = *value else { continue };
                let from = pile(chart, &mut piled, index, value);
                let x = frame.left + slot * index as f64;
                if chart.kind == ChartKind::Columns {
                    let (first, wide) = bar_place(chart, at, slot);
                    let (high, low) = (y(from + value).min(y(from)), y(from + value).max(y(from)));
                    self.rect(x + first, high, wide, low - high, colour(at));
                } else {
                    trace.push((x + slot / 2.0, y(from + value)));
                }
            }
            self.trace(chart, &trace, y(0.0_f64.max(scale.least)), at);
        }
        self.line((frame.left, y(0.0)), (frame.left + frame.width, y(0.0)), "#555");
    }

    fn trace(&mut self, chart: &Chart, trace: &[(f64, f64)], ground: f64, at: usize) {
        let (Some(first), Some(last)) = (trace.first(), trace.last()) else { return };
        let points: Vec<String> =
            trace.iter().map(|(x, y)| format!("{},{}", short(*x), short(*y))).collect();
        let points = points.join(" ");
        let colour = colour(at);
        if chart.kind == ChartKind::Areas {
            let ground = short(ground);
            let _ = writeln!(
                self.out,
                "<polygon points=\"{},{ground} {points} {},{ground}\" fill=\"{colour}\" fill-opacity=\"0.5\"/>",
                short(first.0),
                short(last.0)
            );
        }
        let _ = writeln!(
            self.out,
            "<polyline points=\"{points}\" fill=\"none\" stroke=\"{colour}\" stroke-width=\"2\"/>"
        );
        if chart.kind == ChartKind::Lines && trace.len() <= 60 {
            trace.iter().for_each(|place| self.dot(*place, colour));
        }
    }

    fn dot(&mut self, (x, y): (f64, f64), colour: &str) {
        let (x, y) = (short(x), short(y));
        let _ = writeln!(self.out, "<circle cx=\"{x}\" cy=\"{y}\" r=\"3\" fill=\"{colour}\"/>");
    }

    /// Values across, categories from top to bottom.
    fn bars(&mut self, chart: &Chart, frame: &Frame) {
        let categories = chart.categories();
        let scale = scale_of(chart);
        let left = frame.left + 28.0;
        let width = frame.width - 28.0;
        let x = |value: f64| left + width * scale.share(value);
        for value in scale.steps() {
            self.line((x(value), frame.top), (x(value), frame.top + frame.height), "#ddd");
            self.text(x(value), frame.top + frame.height + 16.0, "middle", 12.0, &spelled(value));
        }
        let slot = frame.height / categories.len().max(1) as f64;
        for (at, name) in categories.iter().enumerate() {
            let y = frame.top + slot * (at as f64 + 0.5) + 4.0;
            self.text(left - 6.0, y, "end", 12.0, name);
        }
        let mut piled = vec![(0.0, 0.0); categories.len()];
        for (at, series) in chart.series.iter().enumerate() {
            for (index, value) in series.values.iter().enumerate().take(MOST_VALUES) {
                let Some(value) = *value else { continue };
                let from = pile(chart, &mut piled, index, value);
                let (first, high) = bar_place(chart, at, slot);
                let (start, end) = (x(from).min(x(from + value)), x(from).max(x(from + value)));
                let y = frame.top + slot * index as f64 + first;
                self.rect(start, y, end - start, high, colour(at));
            }
        }
        self.line((x(0.0), frame.top), (x(0.0), frame.top + frame.height), "#555");
    }

    /// Points at two values each; the categories are the values across.
    fn points(&mut self, chart: &Chart, frame: &Frame) {
        let across: Vec<f64> = chart
            .series
            .iter()
            .flat_map(|series| series.categories.iter().filter_map(|name| name.parse().ok()))
            .collect();
        let (scale, wide) = (scale_of(chart), Scale::around(across.iter().copied()));
        self.value_axis(chart, frame, &scale);
        self.titles(chart, frame);
        for value in wide.steps() {
            let x = frame.left + frame.width * wide.share(value);
            self.text(x, frame.top + frame.height + 16.0, "middle", 12.0, &spelled(value));
        }
        for (at, series) in chart.series.iter().enumerate() {
            for (index, value) in series.values.iter().enumerate().take(MOST_VALUES) {
                let Some(value) = *value else { continue };
                let stated = series.categories.get(index).and_then(|name| name.parse().ok());
                let x = frame.left + frame.width * wide.share(stated.unwrap_or(index as f64 + 1.0));
                let y = frame.top + frame.height * (1.0 - scale.share(value));
                self.dot((x, y), colour(at));
            }
        }
    }

    /// The first series as parts of a circle.
    fn pie(&mut self, chart: &Chart, frame: &Frame) {
        let Some(series) = chart.series.first() else { return };
        let values: Vec<f64> =
            series.values.iter().map(|value| value.unwrap_or_default().abs()).collect();
        let total: f64 = values.iter().sum();
        if total <= 0.0 {
            return;
        }
        let radius = (frame.width.min(frame.height) / 2.0 - 6.0).max(10.0);
        let (x, y) = (frame.left + frame.width / 2.0 - 20.0, frame.top + frame.height / 2.0);
        let place = |share: f64, radius: f64| {
            let angle = share * TAU;
            (x + radius * angle.sin(), y - radius * angle.cos())
        };
        let mut from = 0.0;
        for (at, value) in values.iter().enumerate().take(MOST_VALUES) {
            let share = value / total;
            if share >= 0.9999 {
                let (x, y, radius) = (short(x), short(y), short(radius));
                let colour = colour(at);
                let _ = writeln!(
                    self.out,
                    "<circle cx=\"{x}\" cy=\"{y}\" r=\"{radius}\" fill=\"{colour}\"/>"
                );
            } else if share > 0.0 {
                let (start, end) = (place(from, radius), place(from + share, radius));
                let _ = writeln!(
                    self.out,
                    "<path d=\"M{} {} L{} {} A{r} {r} 0 {} 1 {} {} Z\" fill=\"{}\" stroke=\"#fff\"/>",
                    short(x),
                    short(y),
                    short(start.0),
                    short(start.1),
                    u8::from(share > 0.5),
                    short(end.0),
                    short(end.1),
                    colour(at),
                    r = short(radius),
                );
            }
            from += share;
        }
    }

    fn value_axis(&mut self, chart: &Chart, frame: &Frame, scale: &Scale) {
        for value in scale.steps() {
            let y = frame.top + frame.height * (1.0 - scale.share(value));
            self.line((frame.left, y), (frame.left + frame.width, y), "#ddd");
            self.text(frame.left - 6.0, y + 4.0, "end", 12.0, &spelled(value));
        }
        if !chart.value_title.is_empty() {
            self.turned_text(14.0, frame.top + frame.height / 2.0, &chart.value_title);
        }
    }

    fn category_names(&mut self, categories: &[String], frame: &Frame, slot: f64) {
        // As many names as find room.
        let every = (64.0 / slot.max(0.01)).ceil().max(1.0) as usize;
        for (at, name) in categories.iter().enumerate().step_by(every) {
            let x = frame.left + slot * (at as f64 + 0.5);
            self.text(x, frame.top + frame.height + 16.0, "middle", 12.0, name);
        }
    }

    fn titles(&mut self, chart: &Chart, frame: &Frame) {
        if !chart.category_title.is_empty() {
            let x = frame.left + frame.width / 2.0;
            let y = (frame.top + frame.height + 34.0).min(self.height - 4.0);
            self.text(x, y, "middle", 12.0, &chart.category_title);
        }
    }
}

/// Where a bar begins inside its slot, and how thick it is.
fn bar_place(chart: &Chart, at: usize, slot: f64) -> (f64, f64) {
    let room = slot * 0.7;
    if chart.is_stacked {
        return (slot * 0.15, room);
    }
    let thick = room / chart.series.len().max(1) as f64;
    (slot * 0.15 + thick * at as f64, thick)
}

/// What a value stands on: those above and below zero are piled apart.
fn pile(chart: &Chart, piled: &mut [(f64, f64)], index: usize, value: f64) -> f64 {
    if !chart.is_stacked {
        return 0.0;
    }
    let Some((up, down)) = piled.get_mut(index) else { return 0.0 };
    let side = if value < 0.0 { down } else { up };
    let from = *side;
    *side += value;
    from
}

fn scale_of(chart: &Chart) -> Scale {
    if !chart.is_stacked {
        let values = chart.series.iter().flat_map(|series| series.values.iter().flatten());
        return Scale::around(values.copied().chain([0.0]));
    }
    let mut sums = vec![(0.0, 0.0); chart.categories().len()];
    for series in &chart.series {
        for (index, value) in series.values.iter().enumerate() {
            pile(chart, &mut sums, index, value.unwrap_or_default());
        }
    }
    Scale::around(sums.into_iter().flat_map(|(up, down)| [up, down, 0.0]))
}

impl Scale {
    /// Round numbers around values.
    fn around(values: impl Iterator<Item = f64>) -> Self {
        let finite = values.filter(|value| value.is_finite());
        let (mut least, mut greatest) = finite
            .fold((f64::MAX, f64::MIN), |(low, high), value| (low.min(value), high.max(value)));
        if least > greatest {
            (least, greatest) = (0.0, 1.0);
        }
        if (greatest - least).abs() < f64::EPSILON {
            greatest = least + 1.0;
        }
        let rough = (greatest - least) / 5.0;
        let power = 10f64.powf(rough.log10().floor());
        let step = [1.0, 2.0, 2.5, 5.0, 10.0]
            .into_iter()
            .map(|times| times * power)
            .find(|step| *step >= rough)
            .unwrap_or(rough);
        let (least, greatest) = ((least / step).floor() * step, (greatest / step).ceil() * step);
        Self { least, greatest, step }
    }

    fn share(&self, value: f64) -> f64 {
        ((value - self.least) / (self.greatest - self.least)).clamp(0.0, 1.0)
    }

    fn steps(&self) -> Vec<f64> {
        let count = ((self.greatest - self.least) / self.step).round().clamp(1.0, 20.0) as usize;
        (0..=count).map(|at| self.least + self.step * at as f64).collect()
    }
}

fn colour(at: usize) -> &'static str {
    COLOURS[at % COLOURS.len()]
}

/// With one decimal at most.
fn short(number: f64) -> String {
    let text = format!("{number:.1}");
    text.strip_suffix(".0").map_or(text.clone(), String::from)
}

fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for character in text.chars() {
        match character {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            character if character.is_control() => out.push(' '),
            character => out.push(character),
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn scales_have_round_steps() {
        let cases: [(&[f64], f64, f64, f64); 5] = [
            (&[0.0, 4.3], 0.0, 5.0, 1.0),
            (&[-20.0, 160.0], -50.0, 200.0, 50.0),
            (&[0.0, 0.0], 0.0, 1.0, 0.2),
            (&[], 0.0, 1.0, 0.2),
            (&[f64::NAN, 1e9], 1e9, 1_000_000_001.0, 0.2),
        ];
        for (values, least, greatest, step) in cases {
            let scale = Scale::around(values.iter().copied());
            let found = (scale.least, scale.greatest, scale.step);
            assert!(
                (found.0 - least).abs() < 1e-6 && (found.1 - greatest).abs() < 1e-6,
                "{found:?}"
            );
            assert!((found.2 - step).abs() < 1e-9, "{found:?}");
        }
    }
}

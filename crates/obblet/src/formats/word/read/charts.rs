//! Charts (ECMA-376 part 1, 21.2): drawn from the values that the document stores, with the values as
//! a table beside the drawing.

use super::super::xml::{Ns, Xml};
use super::Reader;
use super::drawing::words;
use crate::chart::{Chart, ChartKind, Series, draw};
use crate::document::{
    Attributes, Block, BlockKind, Figure, Group, GroupRole, Inline, Picture, PictureSource,
};
use crate::findings::Code;

/// The most values of one series.
const MOST_VALUES: usize = 100_000;

/// The greatest number that can be drawn beside others.
const GREATEST: f64 = 1e15;

/// Where the text of a chart belongs that is read next.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Slot {
    Title,
    CategoryTitle,
    ValueTitle,
    SeriesName,
    Categories,
    Values,
    Nothing,
}

impl Reader<'_> {
    /// A chart becomes a figure behind its paragraph.
    pub(super) fn chart(&mut self, relation: &str, alternative: &str) {
        let part = self.part.relationships.get(relation).map(|found| found.target.clone());
        let Some(text) = part.and_then(|part| self.named_part_text(&part)) else {
            return self.lost("a chart");
        };
        let (chart, unusual) = read_chart(&text);
        if let Some(kind) = unusual {
            self.findings.count(Code::ChartRedrawn, &kind, Some(self.place()));
        }
        if chart.series.is_empty() {
            return self.lost("a chart without stored values");
        }
        let svg = draw(&chart, 640.0, 384.0);
        self.charts += 1;
        let name = format!("chart-{}.svg", self.charts);
        let media = self.document.media.add(&name, "image/svg+xml", svg.into_bytes().into());
        let alternative = match alternative {
            "" if chart.title.is_empty() => chart
                .series
                .iter()
                .map(|series| series.name.as_str())
                .collect::<Vec<_>>()
                .join(", "),
            "" => chart.title.clone(),
            stated => stated.to_string(),
        };
        let picture = Inline::Picture(Box::new(Picture {
            source: PictureSource::Media(media),
            alternative: words(&alternative),
            decorative: false,
            title: None,
            width: Some(640.0),
            height: Some(384.0),
            attributes: Attributes::NONE,
        }));
        let summary = if chart.title.is_empty() { alternative } else { chart.title.clone() };
        let table = Block::new(BlockKind::Table(Box::new(chart.table())));
        let role = GroupRole::Disclosure(words(&summary));
        let data = Block::new(BlockKind::Group(Box::new(Group { role, content: vec![table] })));
        let content = vec![Block::new(BlockKind::Paragraph(vec![picture])), data];
        let figure = BlockKind::Figure(Box::new(Figure { content, caption: None }));
        self.behind_paragraph.push(Block::new(figure).at(self.place()));
    }
}

/// The chart of a part, and its kind's name where it is drawn as another one.
fn read_chart(text: &str) -> (Chart, Option<String>) {
    let mut chart = Chart::default();
    let mut unusual = None;
    let mut slot = Slot::Nothing;
    let mut index = 0;
    let mut has_kind = false;
    let mut in_axis = None;
    let mut xml = Xml::new(text);
    let level = xml.level();
    while let Some(element) = xml.descendant(level) {
        let local = element.local();
        if element.ns == Ns::Drawing {
            if local == "t" {
                let inside = xml.level();
                let text = xml.text(inside);
                put_text(&mut chart, slot, &text);
            }
            continue;
        }
        match local {
            "barChart" | "bar3DChart" | "lineChart" | "line3DChart" | "areaChart"
            | "area3DChart" | "pieChart" | "pie3DChart" | "doughnutChart" | "ofPieChart"
            | "scatterChart" | "bubbleChart" | "radarChart" | "surfaceChart" | "surface3DChart"
            | "stockChart" => {
                let kind = kind_of(local);
                // Of several in one picture the first one says how all are drawn.
                if has_kind && kind != Some(chart.kind) || kind.is_none() {
                    unusual = Some(local.to_string());
                }
                if !has_kind {
                    chart.kind = kind.unwrap_or(ChartKind::Lines);
                }
                has_kind = true;
                in_axis = None;
            }
            "barDir" if element.val().as_deref() == Some("bar") => chart.kind = ChartKind::Bars,
            "grouping" => {
                chart.is_stacked =
                    matches!(element.val().as_deref(), Some("stacked" | "percentStacked"));
            }
            "ser" => chart.series.push(Series::default()),
            "tx" if slot == Slot::Title
                || slot == Slot::CategoryTitle
                || slot == Slot::ValueTitle => {}
            "tx" => slot = Slot::SeriesName,
            "title" => {
                slot = match in_axis {
                    None => Slot::Title,
                    Some(true) => Slot::CategoryTitle,
                    Some(false) => Slot::ValueTitle,
                };
            }
            "plotArea" | "legend" | "spPr" | "txPr" | "dLbls" | "marker" | "trendline" => {
                slot = Slot::Nothing;
            }
            "catAx" | "dateAx" => (in_axis, slot) = (Some(true), Slot::Nothing),
            "valAx" | "serAx" => (in_axis, slot) = (Some(false), Slot::Nothing),
            "cat" | "xVal" => slot = Slot::Categories,
            "val" | "yVal" => slot = Slot::Values,
            "bubbleSize" | "errBars" => slot = Slot::Nothing,
            "pt" => {
                let stated = element.number("idx").and_then(|n| usize::try_from(n).ok());
                index = stated.unwrap_or(MOST_VALUES);
            }
            "v" => {
                let inside = xml.level();
                let text = xml.text(inside);
                put_value(&mut chart, slot, index, text.trim());
            }
            _ => {}
        }
    }
    chart.series.retain(|series| !series.values.is_empty());
    (chart, unusual)
}

/// How a kind of chart is drawn; `None` for those that have no drawing of their own here.
fn kind_of(name: &str) -> Option<ChartKind> {
    Some(match name {
        "barChart" | "bar3DChart" => ChartKind::Columns,
        "lineChart" | "line3DChart" | "stockChart" => ChartKind::Lines,
        "areaChart" | "area3DChart" => ChartKind::Areas,
        "pieChart" | "pie3DChart" | "doughnutChart" | "ofPieChart" => ChartKind::Pie,
        "scatterChart" | "bubbleChart" => ChartKind::Points,
        _ => return None,
    })
}

fn put_text(chart: &mut Chart, slot: Slot, text: &str) {
    match slot {
        Slot::Title => chart.title.push_str(text),
        Slot::CategoryTitle => chart.category_title.push_str(text),
        Slot::ValueTitle => chart.value_title.push_str(text),
        _ => {}
    }
}

fn put_value(chart: &mut Chart, slot: Slot, index: usize, text: &str) {
    match slot {
        Slot::Title => return chart.title.push_str(text),
        Slot::CategoryTitle => return chart.category_title.push_str(text),
        Slot::ValueTitle => return chart.value_title.push_str(text),
        _ => {}
    }
    let Some(series) = chart.series.last_mut() else { return };
    // Values stand in order, but for those that are missing.
    let fits = |length: usize| index < MOST_VALUES && index <= length + 1000;
    match slot {
        Slot::SeriesName => series.name.push_str(text),
        Slot::Categories if fits(series.categories.len()) => {
            if series.categories.len() <= index {
                series.categories.resize(index + 1, String::new());
            }
            if let Some(place) = series.categories.get_mut(index) {
                *place = text.to_string();
            }
        }
        Slot::Values if fits(series.values.len()) => {
            if series.values.len() <= index {
                series.values.resize(index + 1, None);
            }
            if let Some(place) = series.values.get_mut(index) {
                *place = text.parse().ok().filter(|value: &f64| value.abs() < GREATEST);
            }
        }
        _ => {}
    }
}

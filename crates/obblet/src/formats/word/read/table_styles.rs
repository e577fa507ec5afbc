//! Table styles (ECMA-376 part 1, 17.7.6): what they say of the regions of a table.

use super::super::xml::{Element, Xml};
use super::box_looks::{BoxLooks, put_over, shown};
use super::context::Context;
use super::paragraph_properties::ParagraphProperties;
use super::run_properties::RunProperties;
use super::styles::Styles;
use crate::document::{Length, Looks, VerticalAlign};
use std::collections::HashMap;
use std::rc::Rc;

/// A region of a table, in the order in which later ones prevail.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(super) enum Region {
    Whole,
    OddColumns,
    EvenColumns,
    OddRows,
    EvenRows,
    FirstRow,
    LastRow,
    FirstColumn,
    LastColumn,
    TopStart,
    TopEnd,
    BottomStart,
    BottomEnd,
}

impl Region {
    /// All regions by their names (17.18.89), in their order.
    const ALL: [(&'static str, Self); 13] = [
        ("wholeTable", Self::Whole),
        ("band1Vert", Self::OddColumns),
        ("band2Vert", Self::EvenColumns),
        ("band1Horz", Self::OddRows),
        ("band2Horz", Self::EvenRows),
        ("firstRow", Self::FirstRow),
        ("lastRow", Self::LastRow),
        ("firstCol", Self::FirstColumn),
        ("lastCol", Self::LastColumn),
        ("nwCell", Self::TopStart),
        ("neCell", Self::TopEnd),
        ("swCell", Self::BottomStart),
        ("seCell", Self::BottomEnd),
    ];
}

/// What a style says of one region.
#[derive(Debug, Clone, Default)]
pub(super) struct RegionStyle {
    pub(super) paragraph: ParagraphProperties,
    pub(super) run: RunProperties,
    /// Of the table as a whole.
    table: BoxLooks,
    /// Of each cell.
    cell: BoxLooks,
}

/// What one style states.
#[derive(Debug, Default)]
pub(super) struct TableStyle {
    regions: HashMap<Region, RegionStyle>,
    row_band: Option<usize>,
    column_band: Option<usize>,
}

/// A table style with all that it inherits, as one table uses it.
#[derive(Debug)]
pub(super) struct ResolvedTableStyle {
    regions: Vec<(Region, RegionStyle)>,
    row_band: usize,
    column_band: usize,
    /// The regions of a cell as bits, and what they come to.
    known: HashMap<u16, Rc<RegionStyle>>,
}

/// Which regions a table wants to look different (17.4.55).
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct WantedRegions {
    pub(super) first_row: bool,
    pub(super) last_row: bool,
    pub(super) first_column: bool,
    pub(super) last_column: bool,
    pub(super) row_bands: bool,
    pub(super) column_bands: bool,
}

impl WantedRegions {
    /// By attributes, or as a bit mask in hexadecimal.
    pub(super) fn read(element: &Element<'_>) -> Self {
        let mask = element.val().and_then(|mask| u32::from_str_radix(&mask, 16).ok());
        let mask = mask.unwrap_or_default();
        let flag = |name: &str, bit: u32| element.flag(name).unwrap_or(mask & bit != 0);
        Self {
            first_row: flag("firstRow", 0x20),
            last_row: flag("lastRow", 0x40),
            first_column: flag("firstColumn", 0x80),
            last_column: flag("lastColumn", 0x100),
            row_bands: !flag("noHBand", 0x200),
            column_bands: !flag("noVBand", 0x400),
        }
    }
}

/// Where a cell stands: its first row and column, what it covers, and the size of the table.
#[derive(Debug, Clone, Copy)]
pub(super) struct CellPlace {
    pub(super) row: usize,
    pub(super) column: usize,
    pub(super) rows: usize,
    pub(super) columns: usize,
    pub(super) table_rows: usize,
    pub(super) table_columns: usize,
}

impl CellPlace {
    fn is_top(&self) -> bool {
        self.row == 0
    }

    fn is_bottom(&self) -> bool {
        self.row + self.rows >= self.table_rows
    }

    fn is_start(&self) -> bool {
        self.column == 0
    }

    fn is_end(&self) -> bool {
        self.column + self.columns >= self.table_columns
    }
}

impl TableStyle {
    /// Reads `w:tblPr`, `w:trPr`, `w:tcPr` or `w:tblStylePr` of a style.
    pub(super) fn read_part(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        context: &mut Context<'_>,
    ) {
        if element.local() != "tblStylePr" {
            let mut region = self.regions.remove(&Region::Whole).unwrap_or_default();
            self.region_part(element, xml, context, &mut region);
            self.regions.insert(Region::Whole, region);
            return;
        }
        let kind = element.value("type");
        let region = Region::ALL.iter().find(|(name, _)| kind.as_deref() == Some(name));
        let Some((_, region)) = region else { return };
        let mut style = RegionStyle::default();
        let level = xml.level();
        while let Some(part) = xml.child(level) {
            self.region_part(&part, xml, context, &mut style);
        }
        self.regions.insert(*region, style);
    }

    /// What a table style says of all text is said of the whole table.
    pub(super) fn put_whole(&mut self, paragraph: &ParagraphProperties, run: &RunProperties) {
        let whole = self.regions.entry(Region::Whole).or_default();
        whole.paragraph = paragraph.clone();
        whole.run = run.clone();
    }

    fn region_part(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        context: &mut Context<'_>,
        region: &mut RegionStyle,
    ) {
        match element.local() {
            "pPr" => region.paragraph = ParagraphProperties::read(xml, context),
            "rPr" => region.run = RunProperties::read(xml, context),
            "tblPr" => {
                let level = xml.level();
                while let Some(property) = xml.child(level) {
                    match property.local() {
                        "tblStyleRowBandSize" => self.row_band = band(&property),
                        "tblStyleColBandSize" => self.column_band = band(&property),
                        _ => {
                            if !region.table.property(&property, xml, context) {
                                context.count(&property);
                            }
                        }
                    }
                }
            }
            "trPr" | "tcPr" => {
                let level = xml.level();
                while let Some(property) = xml.child(level) {
                    let is_known = region.cell.property(&property, xml, context);
                    // Whether rows repeat is said again by each table that means it.
                    if !is_known && property.local() != "tblHeader" {
                        context.count(&property);
                    }
                }
            }
            _ => context.unknown(element),
        }
    }
}

fn band(element: &Element<'_>) -> Option<usize> {
    element.number("val").and_then(|n| usize::try_from(n).ok()).filter(|n| *n > 0)
}

impl ResolvedTableStyle {
    /// The style of a table; `None` for the default one.
    pub(super) fn of(styles: &Styles, id: Option<&str>) -> Self {
        let default = styles.default_of(super::styles::StyleType::Table).map(|id| id.as_str());
        let chain: Vec<_> = styles.chain(id.or(default)).map(|style| &style.table).collect();
        let row_band = chain.iter().find_map(|style| style.row_band).unwrap_or(1);
        let column_band = chain.iter().find_map(|style| style.column_band).unwrap_or(1);
        let mut regions = Vec::new();
        for (_, region) in Region::ALL {
            let mut found: Option<RegionStyle> = None;
            for style in chain.iter().rev().filter_map(|style| style.regions.get(&region)) {
                found = Some(match found {
                    Some(farther) => farther.replaced_by(style),
                    None => style.clone(),
                });
            }
            regions.extend(found.map(|found| (region, found)));
        }
        Self { regions, row_band, column_band, known: HashMap::new() }
    }

    /// Whether the first row, or the first column, looks different.
    pub(super) fn sets_apart(&self, region: Region) -> bool {
        self.regions.iter().any(|(found, _)| *found == region)
    }

    /// What the whole table has, with what it states itself.
    pub(super) fn table(&self, direct: &BoxLooks) -> BoxLooks {
        let mut table = BoxLooks::default();
        if let Some((_, whole)) =
            self.regions.first().filter(|(region, _)| *region == Region::Whole)
        {
            table.replace_by(&whole.table);
        }
        table.replace_by(direct);
        table
    }

    fn regions_of(&self, place: &CellPlace, wanted: WantedRegions) -> Vec<Region> {
        let mut found = vec![Region::Whole];
        let bands = |at: usize, skips_first: bool, size: usize| {
            let at = at.checked_sub(usize::from(skips_first))?;
            Some((at / size).is_multiple_of(2))
        };
        if wanted.column_bands
            && let Some(odd) = bands(place.column, wanted.first_column, self.column_band)
        {
            found.push(if odd { Region::OddColumns } else { Region::EvenColumns });
        }
        if wanted.row_bands
            && let Some(odd) = bands(place.row, wanted.first_row, self.row_band)
        {
            found.push(if odd { Region::OddRows } else { Region::EvenRows });
        }
        let top = wanted.first_row && place.is_top();
        let bottom = wanted.last_row && place.is_bottom();
        let start = wanted.first_column && place.is_start();
        let end = wanted.last_column && place.is_end();
        let others = [
            (top, Region::FirstRow),
            (bottom, Region::LastRow),
            (start, Region::FirstColumn),
            (end, Region::LastColumn),
            (top && start, Region::TopStart),
            (top && end, Region::TopEnd),
            (bottom && start, Region::BottomStart),
            (bottom && end, Region::BottomEnd),
        ];
        found.extend(others.into_iter().filter(|(is, _)| *is).map(|(_, region)| region));
        found
    }

    /// What the style says of one cell and the text in it.
    pub(super) fn cell(&mut self, place: &CellPlace, wanted: WantedRegions) -> Rc<RegionStyle> {
        let regions = self.regions_of(place, wanted);
        let bits = regions.iter().fold(0u16, |bits, region| bits | 1 << (*region as u16));
        if let Some(known) = self.known.get(&bits) {
            return known.clone();
        }
        let mut all = RegionStyle::default();
        for (_, style) in self.regions.iter().filter(|(region, _)| regions.contains(region)) {
            all = all.replaced_by(style);
        }
        let all = Rc::new(all);
        self.known.insert(bits, all.clone());
        all
    }

    /// The looks of a cell's box: the table's, its regions', its own.
    pub(super) fn cell_looks(
        &mut self,
        place: &CellPlace,
        wanted: WantedRegions,
        table: &BoxLooks,
        own: &BoxLooks,
    ) -> Looks {
        let outer = [place.is_top(), place.is_end(), place.is_bottom(), place.is_start()];
        let mut borders = table.edges.of_cell(outer);
        let regions = self.regions_of(place, wanted);
        for (region, style) in self.regions.iter().filter(|(region, _)| regions.contains(region)) {
            // Inside a row, only its ends are outer; inside a column, only its top and bottom.
            let outer = match region {
                Region::Whole => outer,
                Region::FirstRow | Region::LastRow | Region::OddRows | Region::EvenRows => {
                    [true, place.is_end(), true, place.is_start()]
                }
                Region::FirstColumn
                | Region::LastColumn
                | Region::OddColumns
                | Region::EvenColumns => [place.is_top(), true, place.is_bottom(), true],
                _ => [true; 4],
            };
            put_over(&mut borders, style.cell.edges.of_cell(outer));
        }
        let mut cell = table.clone();
        cell.background = None;
        cell.vertical = None;
        let region = self.cell(place, wanted);
        cell.replace_by(&region.cell);
        cell.replace_by(own);
        put_over(&mut borders, own.edges.of_cell([true; 4]));
        // Word leaves this much beside the text of a cell.
        let margins = [0.0, 5.4, 0.0, 5.4];
        let mut padding = margins.map(Length::Points);
        for (side, stated) in padding.iter_mut().zip(cell.margins) {
            *side = stated.map_or(*side, Length::Points);
        }
        Looks {
            borders: shown(borders).map(Box::new),
            background: cell.background,
            padding: Some(padding),
            vertical: cell.vertical.or(Some(VerticalAlign::Top)),
            writing: cell.writing,
            ..Looks::default()
        }
    }
}

impl RegionStyle {
    fn replaced_by(mut self, stronger: &Self) -> Self {
        self.table.replace_by(&stronger.table);
        self.cell.replace_by(&stronger.cell);
        Self {
            paragraph: stronger.paragraph.clone().or(&self.paragraph),
            run: stronger.run.clone().or(&self.run),
            table: self.table,
            cell: self.cell,
        }
    }
}

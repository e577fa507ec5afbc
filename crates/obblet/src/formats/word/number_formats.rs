//! How numbers are spelled (ECMA-376 part 1, 17.18.59).

use crate::document::NumeralStyle;

/// A number format.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum NumberFormat {
    Bullet,
    /// No number.
    None,
    /// One that lists of most formats have.
    Numeral(NumeralStyle),
    /// Any other, which is spelled as text.
    Spelled(Spelling),
}

/// How a number is spelled that is no plain numeral.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Spelling {
    /// `01`, to this many digits.
    Padded(usize),
    /// `- 1 -`
    InDashes,
    /// `1st`
    Ordinal,
    /// `One`
    CardinalWords,
    /// `First`
    OrdinalWords,
    Hexadecimal,
    /// `*`, `†`, `‡`, `§`, then doubled.
    Marks,
    /// Characters that follow each other in Unicode, from this one on, so many.
    Row(char, u32),
    /// Letters of an alphabet, doubled when it is used up.
    Letters(&'static str),
    /// Digits of a script, by its zero.
    Digits(char),
    /// Digits one by one: Chinese and Japanese.
    IdeographDigits,
    /// Tens and hundreds as words.
    IdeographCounting,
    /// Hebrew letters by their values.
    HebrewNumerals,
}

const HIRAGANA: &str =
    "あいうえおかきくけこさしすせそたちつてとなにぬねのはひふへほまみむめもやゆよらりるれろわをん";
const KATAKANA: &str =
    "アイウエオカキクケコサシスセソタチツテトナニヌネノハヒフヘホマミムメモヤユヨラリルレロワヲン";
const IROHA: &str = "イロハニホヘトチリヌルヲワカヨタレソツネナラムウヰノオクヤマケフコエテアサキユメミシヱヒモセスン";
const GANADA: &str = "가나다라마바사아자차카타파하";
const CHOSUNG: &str = "ㄱㄴㄷㄹㅁㅂㅅㅇㅈㅊㅋㅌㅍㅎ";
const STEMS: &str = "甲乙丙丁戊己庚辛壬癸";
const BRANCHES: &str = "子丑寅卯辰巳午未申酉戌亥";
const ARABIC: &str = "أبتثجحخدذرزسشصضطظعغفقكلمنهوي";
const ABJAD: &str = "أبجدهوزحطيكلمنسعفصقرشتثخذضظغ";
const HEBREW: &str = "אבגדהוזחטיכלמנסעפצקרשת";
const RUSSIAN: &str = "абвгдежзиклмнопрстуфхцчшщыэюя";
const RUSSIAN_CAPITALS: &str = "АБВГДЕЖЗИКЛМНОПРСТУФХЦЧШЩЫЭЮЯ";
const THAI: &str = "กขคงจฉชซฌญฎฏฐฑฒณดตถทธนบปผฝพฟภมยรลวศษสหฬอฮ";

/// The names of all formats that number anything.
pub(super) const NAMES: [&str; 49] = [
    "decimal",
    "lowerLetter",
    "upperLetter",
    "lowerRoman",
    "upperRoman",
    "decimalZero",
    "numberInDash",
    "ordinal",
    "cardinalText",
    "ordinalText",
    "hex",
    "chicago",
    "decimalEnclosedCircle",
    "decimalEnclosedCircleChinese",
    "decimalEnclosedParen",
    "decimalEnclosedFullstop",
    "decimalFullWidth",
    "decimalFullWidth2",
    "hindiNumbers",
    "thaiNumbers",
    "hindiVowels",
    "ideographDigital",
    "japaneseDigitalTenThousand",
    "koreanDigital2",
    "taiwaneseDigital",
    "japaneseCounting",
    "chineseCounting",
    "chineseCountingThousand",
    "taiwaneseCounting",
    "taiwaneseCountingThousand",
    "koreanCounting",
    "ideographLegalTraditional",
    "ideographEnclosedCircle",
    "ideographTraditional",
    "ideographZodiac",
    "aiueo",
    "aiueoFullWidth",
    "hiragana",
    "iroha",
    "irohaFullWidth",
    "ganada",
    "chosung",
    "arabicAlpha",
    "arabicAbjad",
    "hebrew1",
    "hebrew2",
    "russianLower",
    "russianUpper",
    "thaiLetters",
];

impl NumberFormat {
    /// The format of this name; decimal where nobody knows it.
    pub(super) fn of(name: &str) -> Self {
        use Spelling::*;
        let numeral = match name {
            "lowerLetter" => Some(NumeralStyle::LowerLetter),
            "upperLetter" => Some(NumeralStyle::UpperLetter),
            "lowerRoman" => Some(NumeralStyle::LowerRoman),
            "upperRoman" => Some(NumeralStyle::UpperRoman),
            _ => None,
        };
        if let Some(style) = numeral {
            return Self::Numeral(style);
        }
        Self::Spelled(match name {
            "bullet" => return Self::Bullet,
            "none" => return Self::None,
            "decimalZero" => Padded(2),
            "numberInDash" => InDashes,
            "ordinal" => Ordinal,
            "cardinalText" => CardinalWords,
            "ordinalText" => OrdinalWords,
            "hex" => Hexadecimal,
            "chicago" => Marks,
            "decimalEnclosedCircle" | "decimalEnclosedCircleChinese" => Row('①', 20),
            "decimalEnclosedParen" => Row('⑴', 20),
            "decimalEnclosedFullstop" => Row('⒈', 20),
            "decimalFullWidth" | "decimalFullWidth2" => Digits('０'),
            "hindiNumbers" => Digits('०'),
            "thaiNumbers" => Digits('๐'),
            "hindiVowels" => Letters("अआइईउऊऋएऐओऔ"),
            "ideographDigital"
            | "japaneseDigitalTenThousand"
            | "koreanDigital2"
            | "taiwaneseDigital" => IdeographDigits,
            "japaneseCounting"
            | "chineseCounting"
            | "chineseCountingThousand"
            | "taiwaneseCounting"
            | "taiwaneseCountingThousand"
            | "koreanCounting"
            | "ideographLegalTraditional" => IdeographCounting,
            "ideographEnclosedCircle" => Row('㊀', 10),
            "ideographTraditional" => Letters(STEMS),
            "ideographZodiac" => Letters(BRANCHES),
            "aiueo" | "aiueoFullWidth" => Letters(KATAKANA),
            "hiragana" => Letters(HIRAGANA),
            "iroha" | "irohaFullWidth" => Letters(IROHA),
            "ganada" => Letters(GANADA),
            "chosung" => Letters(CHOSUNG),
            "arabicAlpha" => Letters(ARABIC),
            "arabicAbjad" => Letters(ABJAD),
            "hebrew1" => HebrewNumerals,
            "hebrew2" => Letters(HEBREW),
            "russianLower" => Letters(RUSSIAN),
            "russianUpper" => Letters(RUSSIAN_CAPITALS),
            "thaiLetters" => Letters(THAI),
            _ => return Self::Numeral(NumeralStyle::Decimal),
        })
    }

    /// A format made of examples, such as `001, 002, 003, ...`, which only newer programs know.
    pub(super) fn of_example(example: &str) -> Option<Self> {
        let first = example.split(',').next()?.trim();
        let is_padded = first.len() > 1 && first.bytes().all(|b| b == b'0' || b == b'1');
        is_padded.then_some(Self::Spelled(Spelling::Padded(first.len().min(9))))
    }

    /// The number, without any marks around it.
    pub(super) fn spell(self, number: i32) -> String {
        match self {
            Self::Bullet | Self::None => String::new(),
            Self::Numeral(style) => style.spell(number),
            Self::Spelled(spelling) => spelling.spell(number).unwrap_or_else(|| number.to_string()),
        }
    }
}

impl Spelling {
    fn spell(self, number: i32) -> Option<String> {
        let positive = u32::try_from(number).ok()?;
        Some(match self {
            Self::Padded(width) => format!("{number:0width$}"),
            Self::InDashes => format!("- {number} -"),
            Self::Ordinal => format!("{number}{}", ordinal_ending(positive)),
            Self::CardinalWords => capitalised(&english(positive)?),
            Self::OrdinalWords => capitalised(&english_ordinal(positive)?),
            Self::Hexadecimal => format!("{number:X}"),
            Self::Marks => doubled("*†‡§", positive)?,
            Self::Row(first, length) if (1..=length).contains(&positive) => {
                char::from_u32(u32::from(first) + positive - 1)?.to_string()
            }
            Self::Row(..) => return None,
            Self::Letters(alphabet) => doubled(alphabet, positive)?,
            Self::Digits(zero) => digits(number, |digit| char::from_u32(u32::from(zero) + digit))?,
            Self::IdeographDigits => {
                digits(number, |digit| "〇一二三四五六七八九".chars().nth(digit as usize))?
            }
            Self::IdeographCounting => ideographs(positive)?,
            Self::HebrewNumerals => hebrew(positive)?,
        })
    }
}

/// A letter; once all have had their turn, twice the first, and so on.
fn doubled(alphabet: &str, number: u32) -> Option<String> {
    let length = alphabet.chars().count() as u32;
    let index = number.checked_sub(1)?;
    let times = (index / length + 1) as usize;
    let letter = alphabet.chars().nth((index % length) as usize)?;
    (times <= 30).then(|| letter.to_string().repeat(times))
}

fn digits(number: i32, digit: impl Fn(u32) -> Option<char>) -> Option<String> {
    number.to_string().chars().map(|c| c.to_digit(10).map_or(Some(c), &digit)).collect()
}

fn ordinal_ending(number: u32) -> &'static str {
    match (number % 100, number % 10) {
        (11..=13, _) => "th",
        (_, 1) => "st",
        (_, 2) => "nd",
        (_, 3) => "rd",
        _ => "th",
    }
}

fn capitalised(words: &str) -> String {
    let mut chars = words.chars();
    chars.next().map_or_else(String::new, |first| first.to_uppercase().chain(chars).collect())
}

const ONES: [&str; 20] = [
    "zero",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
    "thirteen",
    "fourteen",
    "fifteen",
    "sixteen",
    "seventeen",
    "eighteen",
    "nineteen",
];
const TENS: [&str; 10] =
    ["", "ten", "twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"];

/// English words for numbers below a thousand.
fn english(number: u32) -> Option<String> {
    let index = number as usize;
    Some(match number {
        0..=19 => (*ONES.get(index)?).to_string(),
        20..=99 if number.is_multiple_of(10) => (*TENS.get(index / 10)?).to_string(),
        20..=99 => format!("{}-{}", TENS.get(index / 10)?, ONES.get(index % 10)?),
        100..=999 if number.is_multiple_of(100) => format!("{} hundred", ONES.get(index / 100)?),
        100..=999 => format!("{} hundred {}", ONES.get(index / 100)?, english(number % 100)?),
        _ => return None,
    })
}

fn english_ordinal(number: u32) -> Option<String> {
    const IRREGULAR: [(&str, &str); 7] = [
        ("one", "first"),
        ("two", "second"),
        ("three", "third"),
        ("five", "fifth"),
        ("eight", "eighth"),
        ("nine", "ninth"),
        ("twelve", "twelfth"),
    ];
    let words = english(number)?;
    let at = words.rfind([' ', '-']).map_or(0, |at| at + 1);
    let (before, last) = words.split_at_checked(at)?;
    let irregular = IRREGULAR.iter().find(|(cardinal, _)| *cardinal == last);
    let last = match (irregular, last.strip_suffix('y')) {
        (Some((_, ordinal)), _) => (*ordinal).to_string(),
        (None, Some(stem)) => format!("{stem}ieth"),
        (None, None) => format!("{last}th"),
    };
    Some(format!("{before}{last}"))
}

/// 十, 十一, 二十, 百二十三, up to 9999.
fn ideographs(number: u32) -> Option<String> {
    if !(1..10_000).contains(&number) {
        return None;
    }
    let mut spelled = String::new();
    for (value, unit) in [(1000, "千"), (100, "百"), (10, "十"), (1, "")] {
        let digit = number / value % 10;
        if digit > 1 || (digit == 1 && value == 1) {
            spelled.extend("〇一二三四五六七八九".chars().nth(digit as usize));
        }
        if digit > 0 {
            spelled.push_str(unit);
        }
    }
    Some(spelled)
}

/// Additive, with 15 and 16 spelled so that they are no part of a holy name.
fn hebrew(number: u32) -> Option<String> {
    const VALUES: [(u32, char); 22] = [
        (400, 'ת'),
        (300, 'ש'),
        (200, 'ר'),
        (100, 'ק'),
        (90, 'צ'),
        (80, 'פ'),
        (70, 'ע'),
        (60, 'ס'),
        (50, 'נ'),
        (40, 'מ'),
        (30, 'ל'),
        (20, 'כ'),
        (10, 'י'),
        (9, 'ט'),
        (8, 'ח'),
        (7, 'ז'),
        (6, 'ו'),
        (5, 'ה'),
        (4, 'ד'),
        (3, 'ג'),
        (2, 'ב'),
        (1, 'א'),
    ];
    if !(1..1000).contains(&number) {
        return None;
    }
    let mut left = number;
    let mut spelled = String::new();
    for (value, letter) in VALUES {
        while left >= value && !(value == 10 && matches!(left, 15 | 16)) {
            spelled.push(letter);
            left -= value;
        }
    }
    Some(spelled)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_spelled_as_their_formats_have_them() {
        let cases = [
            ("decimal", 12, "12"),
            ("upperRoman", 4, "IV"),
            ("decimalZero", 7, "07"),
            ("decimalZero", 12, "12"),
            ("ordinal", 1, "1st"),
            ("ordinal", 12, "12th"),
            ("ordinal", 23, "23rd"),
            ("cardinalText", 21, "Twenty-one"),
            ("cardinalText", 105, "One hundred five"),
            ("ordinalText", 1, "First"),
            ("ordinalText", 20, "Twentieth"),
            ("ordinalText", 32, "Thirty-second"),
            ("ordinalText", 100, "One hundredth"),
            ("hex", 255, "FF"),
            ("chicago", 1, "*"),
            ("chicago", 6, "††"),
            ("decimalEnclosedCircle", 3, "③"),
            ("decimalEnclosedCircle", 21, "21"),
            ("numberInDash", 3, "- 3 -"),
            ("decimalFullWidth", 10, "１０"),
            ("ideographDigital", 21, "二一"),
            ("japaneseCounting", 21, "二十一"),
            ("japaneseCounting", 110, "百十"),
            ("aiueo", 2, "イ"),
            ("iroha", 3, "ハ"),
            ("ganada", 2, "나"),
            ("arabicAbjad", 2, "ب"),
            ("hebrew1", 15, "טו"),
            ("hebrew1", 21, "כא"),
            ("russianLower", 3, "в"),
            ("thaiNumbers", 12, "๑๒"),
            ("none", 3, ""),
            ("nobody knows", 3, "3"),
            ("cardinalText", -3, "-3"),
        ];
        for (name, number, expected) in cases {
            assert_eq!(NumberFormat::of(name).spell(number), expected, "{name}");
        }
        let padded = NumberFormat::of_example("001, 002, 003, ...");
        assert_eq!(padded.map(|format| format.spell(7)), Some("007".into()));
    }
}

use super::{When, is_impossible};

#[test]
fn moments_of_iso_8601() {
    let cases = [
        ("2026-05-12", "2026-05-12", "2026-05-12T00:00:00Z"),
        ("2026-05-12T14:30", "2026-05-12T14:30", "2026-05-12T14:30:00Z"),
        ("2026-05-12 14:30", "2026-05-12T14:30", "2026-05-12T14:30:00Z"),
        ("2026-05-12T14:30:59Z", "2026-05-12T14:30:59Z", "2026-05-12T14:30:59Z"),
        ("2026-05-12T00:30:00+02:00", "2026-05-12T00:30:00+02:00", "2026-05-11T22:30:00Z"),
        ("2026-12-31T23:30:00-0130", "2026-12-31T23:30:00-01:30", "2027-01-01T01:00:00Z"),
        ("2024-02-29T10:00:00.1234567Z", "2024-02-29T10:00:00.123Z", "2024-02-29T10:00:00Z"),
    ];
    for (text, html, utc) in cases {
        let when = When::of(text).unwrap_or_else(|| panic!("{text}"));
        assert_eq!((when.html().as_str(), when.utc().as_str()), (html, utc), "{text}");
    }
    let none = [
        "",
        "2026",
        "2026-05",
        "2026-5-12",
        "2026-05-12T",
        "2026-05-12T25:00",
        "2026-05-12T10:00+25:00",
        "2026-05-12x",
        "12 May 2026",
        "März 2026 um",
        "2026-05-12T10:00:00.",
        "+026-05-12",
    ];
    for text in none {
        assert_eq!(When::of(text), None, "{text}");
    }
}

#[test]
fn moments_of_xml_have_seconds() {
    for (text, xml) in [
        ("2026-05-12", "2026-05-12"),
        ("2026-05-12T14:30+02:00", "2026-05-12T14:30:00+02:00"),
        ("2026-05-12T14:30:59Z", "2026-05-12T14:30:59Z"),
    ] {
        assert_eq!(When::of(text).map(|when| when.xml()).as_deref(), Some(xml), "{text}");
    }
}

#[test]
fn days_that_do_not_exist() {
    for text in [
        "2026-02-31",
        "2026-13-45",
        "2025-02-29",
        "2026-02-31T10:00:00Z",
        "0000-01-01",
        "<2026-02-30 Sat>",
    ] {
        assert!(is_impossible(text), "{text}");
    }
    for text in
        ["2026-02-28", "<2026-02-28 Sat>", "spring 1784", "2026-02", "", "31.02.2026 at noon"]
    {
        assert!(!is_impossible(text), "{text}");
    }
}

#[test]
fn days_as_people_write_them() {
    let cases = [
        ("15.04.2026", "de", "2026-04-15"),
        ("5. 4. 2026", "cs", "2026-04-05"),
        ("2026/4/15", "en", "2026-04-15"),
        ("May 3, 2026", "en", "2026-05-03"),
        ("3 May 2026", "en-GB", "2026-05-03"),
        ("3rd of May 2026", "en", "2026-05-03"),
        ("Sept. 3, 2026", "en", "2026-09-03"),
        ("12. März 2026", "de-AT", "2026-03-12"),
        ("3 de mayo de 2026", "es", "2026-05-03"),
        ("1er août 2026", "fr", "2026-08-01"),
        ("1 декабря 2026 г.", "ru", "2026-12-01"),
        ("25/12/2026", "en", "2026-12-25"),
        ("03/04/2026", "en-GB", "2026-04-03"),
        ("03/04/2026", "en-US", "2026-03-04"),
        ("03/03/2026", "en", "2026-03-03"),
        ("May 3, 2026", "de", "2026-05-03"),
    ];
    for (text, language, day) in cases {
        let when = When::of_text(text, language);
        assert_eq!(when.map(|when| when.day()).as_deref(), Some(day), "{text} {language}");
    }
    let none = [
        "03/04/2026",
        "31.02.2026",
        "May 2026",
        "spring 1784",
        "May 3",
        "3 May 2026 or later",
        "Ma 3, 2026",
        "1 2 2026",
        "Version 1.2",
        "Ju 3 2026",
        "2026",
        "99999999999999999999.1.2026",
    ];
    for text in none {
        assert_eq!(When::of_text(text, "en"), None, "{text}");
    }
}

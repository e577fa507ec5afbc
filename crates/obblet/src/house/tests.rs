use super::*;

#[test]
fn errors_name_the_line_and_the_nearest_word() {
    let cases = [
        (
            "[page]\ncontens = 2\n",
            "line 2: there is no setting page.contens; did you mean page.contents?",
        ),
        (
            "\n[page]\ncontents = 7\n",
            "line 3: page.contents takes a whole number from 0 to 6, not 7",
        ),
        (
            "[page]\nextent = \"whole\"\n",
            "line 2: page.extent takes \"page\" or \"body\", not \"whole\"",
        ),
        ("like = \"pages\"\n", "there is no house pages; did you mean page?"),
        ("contents = 2\n", "line 1: there is no setting contents; did you mean page.contents?"),
    ];
    for (toml, expected) in cases {
        let error = House::from_toml(toml).unwrap_err().to_string();
        // The nearest word may be missing where none is near.
        assert!(
            error == expected || expected.starts_with(&error),
            "{toml:?}\n  gave {error}\n  not  {expected}"
        );
    }
    assert!(matches!(House::from_toml("[page\n"), Err(HouseError::NoToml { line: Some(1), .. })));
}

#[test]
fn single_settings_take_text_with_and_without_quotes() {
    let mut house = House::default();
    for (key, value) in [
        ("page.contents", "2"),
        ("page.title", "The tide mill"),
        ("page.language", "\"de\""),
        ("pictures.placement", "embedded"),
        ("page.theme", "book"),
        ("page.audiences", "[\"print\", \"web\"]"),
        ("markdown.dialect", "forge"),
    ] {
        assert_eq!(house.set(key, value), Ok(()), "{key}={value}");
    }
    assert_eq!((house.page.contents, house.page.title.as_str()), (2, "The tide mill"));
    assert_eq!((house.page.language.as_str(), house.page.theme), ("de", Theme::Book));
    assert_eq!(house.page.audiences, ["print", "web"]);
    assert!(house.set("page.theme", "maybe").is_err());
    assert!(house.set("page.audiences", "[1]").is_err());
}

#[test]
fn every_built_in_house_is_the_same_after_showing_and_reading() {
    for (name, _, _) in BUILT_IN {
        let house = House::built_in(name).unwrap();
        assert_eq!(House::from_toml(&house.to_toml()).unwrap(), house, "{name}");
    }
}

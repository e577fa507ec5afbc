//! The command as a user meets it: arguments, standard streams, exit codes.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use assert_cmd::Command;
use std::fs;
use std::path::Path;
use tempfile::TempDir;

struct Ran {
    code: i32,
    out: String,
    talk: String,
}

fn obblet(folder: &Path, arguments: &[&str], input: &str) -> Ran {
    let mut command = Command::cargo_bin("obblet").unwrap();
    let output = command.current_dir(folder).args(arguments).write_stdin(input).output().unwrap();
    Ran {
        code: output.status.code().unwrap(),
        out: String::from_utf8(output.stdout).unwrap(),
        talk: String::from_utf8(output.stderr).unwrap(),
    }
}

fn scratch(files: &[(&str, &str)]) -> TempDir {
    let folder = tempfile::tempdir().unwrap();
    for (name, text) in files {
        let path = folder.path().join(name);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, text).unwrap();
    }
    folder
}

/// `SOURCE_DATE_EPOCH` makes a conversion one that can be made again.
#[test]
fn the_day_of_the_reading_may_be_named() {
    let source = r"\documentclass{article}\begin{document}Written on \today.\end{document}";
    let folder = scratch(&[("log.tex", source)]);
    let convert = || {
        let mut command = Command::cargo_bin("obblet").unwrap();
        command.current_dir(folder.path()).args([
            "convert",
            "log.tex",
            "-",
            "--write-as",
            "markdown",
        ]);
        command
    };
    let named = convert().env("SOURCE_DATE_EPOCH", "1777680000").output().unwrap();
    assert_eq!(String::from_utf8_lossy(&named.stdout).trim(), "Written on May 2, 2026.");
    let unnamed = convert().env_remove("SOURCE_DATE_EPOCH").output().unwrap();
    let unnamed = String::from_utf8_lossy(&unnamed.stdout).to_string();
    assert!(unnamed.contains("Written on ") && unnamed.contains(", 20"), "{unnamed}");
}

/// What is relative to the source leads there from another folder too.
#[test]
fn a_target_in_another_folder_keeps_what_its_source_leads_to() {
    let folder = tempfile::tempdir().unwrap();
    fs::create_dir_all(folder.path().join("drafts")).unwrap();
    let text = "![wheel](wheel.png) [up](../log.md#ebb) [out](https://marrowby.example) [here](#x)\n\n\
                <img src=\"raw.png\" alt=\"raw\">\n";
    fs::write(folder.path().join("drafts/a.md"), text).unwrap();
    let cases = [
        (
            "out/pages/a.html",
            ["../../drafts/wheel.png", "../../log.md#ebb", "../../drafts/raw.png"],
        ),
        ("out.md", ["drafts/wheel.png", "(log.md#ebb)", "drafts/raw.png"]),
        ("drafts/a.html", ["\"wheel.png", "\"../log.md#ebb", "\"raw.png"]),
    ];
    for (target, wanted) in cases {
        obblet(folder.path(), &["convert", "drafts/a.md", target], "");
        let written = fs::read_to_string(folder.path().join(target)).unwrap();
        for address in wanted.into_iter().chain(["https://marrowby.example", "#x"]) {
            assert!(written.contains(address), "{target} without {address}: {written}");
        }
    }
    // What leads to the same file is the same; so is a copy, whose addresses are spelled the same.
    fs::create_dir(folder.path().join("copies")).unwrap();
    fs::write(folder.path().join("copies/a.md"), text).unwrap();
    fs::write(folder.path().join("drafts/b.md"), "[a](a.md)\n").unwrap();
    let turned = obblet(folder.path(), &["convert", "drafts/b.md", "out/b.md"], "");
    assert_eq!(turned.code, 0);
    assert_eq!(obblet(folder.path(), &["compare", "drafts/b.md", "out/b.md"], "").code, 0);
    for other in ["out.md", "out/pages/a.html", "copies/a.md"] {
        let arguments = ["compare", "drafts/a.md", other, "--ignore", "metadata"];
        let ran = obblet(folder.path(), &arguments, "");
        assert_eq!(ran.code, 0, "{other}: {}", ran.out);
    }
}

#[test]
fn standard_input_becomes_standard_output() {
    let folder = scratch(&[]);
    let ran = obblet(folder.path(), &["convert", "-", "--house", "body"], "High *water*\n");
    assert_eq!(
        (ran.code, ran.out.as_str(), ran.talk.as_str()),
        (0, "<p>High <em>water</em></p>\n", "")
    );
}

#[test]
fn findings_name_file_line_and_column_and_strict_minds_them() {
    let folder = scratch(&[("t.md", "| a |\n|---|\n| b | c |\n")]);
    let quiet = obblet(folder.path(), &["convert", "t.md", "t.html"], "");
    assert_eq!((quiet.code, quiet.out.as_str()), (0, ""));
    assert!(quiet.talk.starts_with("t.md:3:7: lost: the row has more cells"), "{}", quiet.talk);
    let arguments = ["convert", "t.md", "t.html", "--strict", "--ledger", "t.json"];
    assert_eq!(obblet(folder.path(), &arguments, "").code, 1);
    let ledger: serde_json::Value =
        serde_json::from_slice(&fs::read(folder.path().join("t.json")).unwrap()).unwrap();
    let finding = &ledger["files"][0]["findings"][0];
    assert_eq!(finding["code"], "table-cells-surplus");
    assert_eq!((&finding["kind"], &finding["position"]["line"]), (&"lost".into(), &3.into()));
}

#[test]
fn the_ledger_of_each_command_counts_words() {
    let folder = scratch(&[("in/a.md", "High water at noon.\n"), ("in/b.md", "Low water.\n")]);
    let cases = [
        ("convert in/a.md a.html", vec![(4, 4)]),
        ("publish in web", vec![(4, 4), (2, 2)]),
        ("bind in/a.md in/b.md all.html", vec![(4, 0), (2, 0)]),
    ];
    for (arguments, wanted) in cases {
        let mut words: Vec<&str> = arguments.split(' ').collect();
        words.extend(["--ledger", "l.json"]);
        assert_eq!(obblet(folder.path(), &words, "").code, 0, "{arguments}");
        let ledger: serde_json::Value =
            serde_json::from_slice(&fs::read(folder.path().join("l.json")).unwrap()).unwrap();
        for (row, (source, output)) in wanted.into_iter().enumerate() {
            let account = &ledger["files"][row]["account"];
            assert_eq!(account["source"], source, "{arguments}: {account}");
            assert_eq!(account["output"], output, "{arguments}: {account}");
        }
    }
}

#[test]
fn wrong_usage_and_unreadable_files_have_their_own_codes_and_say_what_to_do() {
    let folder = scratch(&[
        ("t.md", "x"),
        ("bad.docx", "x"),
        ("empty.docx", ""),
        ("d/x.md", ""),
        ("letter.rtf", "{\\rtf1 Dear editor}"),
        ("scan.md", "%PDF-1.7\n"),
        ("flat.xml", "<?xml version=\"1.0\"?>\n<w:wordDocument/>"),
    ]);
    let cases: [(&[&str], i32, &str); 14] = [
        (&["convert", "letter.rtf", "-"], 3, "it is Rich Text Format; save it as .docx"),
        (&["convert", "scan.md", "-"], 3, "this is a PDF file; convert the file that"),
        (&["convert", "flat.xml", "-"], 3, "a single XML file; save it as .docx"),
        (&["convert", "gone.md", "-"], 3, "gone.md cannot be read"),
        (&["convert", "bad.docx", "-"], 3, "bad.docx: this is no Word file: it is not a ZIP"),
        (&["convert", "empty.docx", "-"], 3, "the file is empty"),
        (
            &["convert", "t.md", "t.docx", "--set", "word.pattern=bad.docx"],
            3,
            "the pattern for Word files cannot be used: it is not a ZIP archive",
        ),
        (&["convert", "t.md", "t.xyz"], 2, "--write-as html"),
        (&["convert", "d", "-"], 2, "use “obblet publish d OUTPUT”"),
        (&["convert", "t.md", "-", "--house", "pgae"], 2, "did you mean page?"),
        (&["convert", "t.md", "-", "--set", "page.contens=1"], 2, "did you mean page.contents?"),
        (&["convert", "t.md", "-", "--read-as", "x"], 2, "there is no such format"),
        (&["publish", "d", "d/out"], 2, "lies inside the source folder"),
        (&["publish", "t.md", "out"], 2, "use “obblet convert”"),
    ];
    for (arguments, code, expected) in cases {
        let ran = obblet(folder.path(), arguments, "");
        assert_eq!(ran.code, code, "{arguments:?}: {}", ran.talk);
        assert!(ran.talk.contains(expected), "{arguments:?}: {}", ran.talk);
        assert_eq!(ran.out, "", "{arguments:?}");
    }
    assert!(!folder.path().join("d/out").exists());
}

/// A package is read as one, whatever its name says; to a device is written, not over it.
#[test]
fn the_content_decides_and_a_device_stays_one() {
    let folder = scratch(&[("t.md", "# Tides\n")]);
    assert_eq!(obblet(folder.path(), &["convert", "t.md", "t.docx"], "").code, 0);
    fs::copy(folder.path().join("t.docx"), folder.path().join("renamed.md")).unwrap();
    let ran = obblet(folder.path(), &["convert", "renamed.md", "-", "--write-as", "markdown"], "");
    assert!(ran.code == 0 && ran.out.trim().ends_with("# Tides"), "{} {}", ran.out, ran.talk);
    #[cfg(unix)]
    {
        use std::os::unix::fs::FileTypeExt;
        let ran =
            obblet(folder.path(), &["convert", "t.md", "/dev/null", "--write-as", "html"], "");
        assert_eq!(ran.code, 0, "{}", ran.talk);
        assert!(fs::metadata("/dev/null").unwrap().file_type().is_char_device());
    }
}

#[test]
fn publish_reports_each_kind_and_goes_on_after_a_failure() {
    let folder = scratch(&[("d/a.md", "# A\n[b](b.md)\n"), ("d/b.docx", "no"), ("d/c.csv", "c")]);
    let dry = obblet(folder.path(), &["publish", "d", "web", "--dry-run"], "");
    assert_eq!(dry.code, 0);
    assert_eq!(
        dry.out,
        "         new  folder\n           3  .\n\n\
         new         a.md → a.html: it was not there before\n\
         new         b.docx → b.html: it was not there before\n\
         new         c.csv → c.csv: it was not there before\n\
         3 files. Nothing was written.\n"
    );
    assert!(!folder.path().join("web").exists());

    let ran = obblet(folder.path(), &["publish", "d", "web"], "");
    assert_eq!(ran.code, 3);
    assert!(ran.talk.contains("b.docx: failed: this is no Word file"), "{}", ran.talk);
    assert!(
        ran.talk.contains("a.md:2:1: problem: the link or picture leads to no file"),
        "{}",
        ran.talk
    );
    for expected in
        ["     1 converted\n", "     1 copied\n     1 failed\nFindings: 1 problem\nweb is ready"]
    {
        assert!(ran.out.contains(expected), "{}", ran.out);
    }

    let again = obblet(folder.path(), &["publish", "d", "web", "--json"], "");
    let summary: serde_json::Value = serde_json::from_str(&again.out).unwrap();
    assert_eq!(summary["counts"]["converted"], 0);
    assert_eq!(summary["counts"]["made"], 0);
    assert_eq!(summary["counts"]["failed"], 1);
}

#[test]
fn the_demo_comes_out_of_the_binary_alone() {
    let folder = scratch(&[]);
    let ran = obblet(folder.path(), &["demo"], "");
    assert_eq!(ran.code, 0, "{}", ran.talk);
    for file in ["texts/volunteers/handbook.docx", "web/index.html", "web/work/repairs.html"] {
        assert!(folder.path().join("obblet-demo").join(file).is_file(), "{file}");
    }
    // A second time nothing is lost that was changed in between.
    let guide = folder.path().join("obblet-demo/texts/visitor-guide.md");
    fs::write(&guide, "# Mine\n").unwrap();
    let again = obblet(folder.path(), &["demo"], "");
    assert!(again.talk.contains("was changed and is left as it is"), "{}", again.talk);
    assert_eq!(fs::read_to_string(&guide).unwrap(), "# Mine\n");
}

/// What is read is not written over, and one file is not written twice.
#[test]
fn sources_are_not_overwritten() {
    let folder = scratch(&[("a.md", "# A\n"), ("b.md", "# B\n"), ("c.html", "<p>C")]);
    fs::create_dir(folder.path().join("texts")).unwrap();
    fs::write(folder.path().join("texts/d.md"), "# D\n").unwrap();
    let cases: [&[&str]; 9] = [
        &["check", "a.md", "--sarif", "a.md"],
        &["convert", "a.md", "a.md"],
        &["convert", "a.md", "./texts/../a.md", "--write-as", "html"],
        &["convert", "a.md", "a.html", "--ledger", "a.md"],
        &["convert", "a.md", "a.html", "--ledger", "a.html"],
        &["bind", "a.md", "b.md"],
        &["bind", "a.md", "b.md", "c.md", "--ledger", "b.md"],
        &["clean", "c.html", "--ledger", "c.html"],
        &["publish", "texts", "web", "--log", "texts/d.md"],
    ];
    for arguments in cases {
        let ran = obblet(folder.path(), arguments, "");
        assert_eq!(ran.code, 2, "{arguments:?}: {}", ran.talk);
    }
    for (file, text) in [("a.md", "# A\n"), ("b.md", "# B\n"), ("texts/d.md", "# D\n")] {
        assert_eq!(fs::read_to_string(folder.path().join(file)).unwrap(), text);
    }
    assert_eq!(obblet(folder.path(), &["bind", "a.md", "b.md", "--overwrite"], "").code, 0);
    // Of a folder it is clear what is meant.
    for _ in 0..2 {
        assert_eq!(obblet(folder.path(), &["bind", "texts", "all.md"], "").code, 0);
    }
}

/// Names and words of documents do not steer the terminal.
#[test]
fn nothing_steers_the_terminal() {
    let text = "[x\u{1b}[2J\u{202e}](javascript:\u{1b}]0;x\u{7})\n";
    let folder = scratch(&[("a.md", text), ("b\u{1b}[2J.md", "[x](gone.html)\n")]);
    let commands: [&[&str]; 4] = [
        &["convert", "a.md", "a.html"],
        &["check", "."],
        &["compare", "a.md", "b\u{1b}[2J.md"],
        &["convert", "gone\u{1b}[2J.md"],
    ];
    for arguments in commands {
        let ran = obblet(folder.path(), arguments, "");
        let said = format!("{}{}", ran.out, ran.talk);
        assert!(!said.contains(['\u{1b}', '\u{202e}', '\u{7}']), "{arguments:?}: {said:?}");
    }
}

/// A command gives up with words where it takes more than it may.
#[test]
fn a_command_gives_up_in_words() {
    let folder = scratch(&[("a.md", &"*a **b* c** [d](e) ".repeat(400_000))]);
    let ran = obblet(folder.path(), &["compare", "a.md", "a.md", "--memory-limit", "1"], "");
    assert_eq!((ran.code, ran.out.as_str()), (3, ""));
    assert!(
        ran.talk.contains("more than 1 MB of memory; --memory-limit allows more"),
        "{}",
        ran.talk
    );
}

/// Pictures beside the source go into the file, and nothing goes beside it.
#[test]
fn a_word_file_holds_all_and_reads_back() {
    let drawing = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"40\" height=\"20\"><rect width=\"40\" height=\"20\"/></svg>";
    let folder = scratch(&[("t.md", "# Tides\n\n![Wheel](wheel.svg)\n"), ("wheel.svg", drawing)]);
    let written = obblet(folder.path(), &["convert", "t.md", "t.docx", "--strict"], "");
    assert_eq!((written.code, written.talk.as_str()), (0, ""));
    assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 3);
    let back = obblet(folder.path(), &["convert", "t.docx", "back/t.md"], "");
    assert_eq!(back.code, 0, "{}", back.talk);
    let text = fs::read_to_string(folder.path().join("back/t.md")).unwrap();
    assert!(text.contains("![Wheel](t-pictures/wheel.svg)"), "{text}");
    assert_eq!(
        fs::read_to_string(folder.path().join("back/t-pictures/wheel.svg")).unwrap(),
        drawing
    );
    let same = obblet(folder.path(), &["compare", "t.md", "t.docx"], "");
    assert_eq!(same.code, 0, "{}", same.out);
}

#[test]
fn pictures_go_beside_the_target_or_into_it() {
    let folder = scratch(&[]);
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/volunteers/handbook.docx");
    let demo = demo.to_str().unwrap();
    let beside = obblet(folder.path(), &["convert", demo, "web/h.html"], "");
    assert_eq!(beside.code, 0, "{}", beside.talk);
    let page = fs::read_to_string(folder.path().join("web/h.html")).unwrap();
    assert!(page.contains("<img src=\"h-pictures/image1.png\""));
    assert!(folder.path().join("web/h-pictures/image1.png").is_file());

    let elsewhere = ["convert", demo, "web/h.html", "--pictures", "img"];
    assert_eq!(obblet(folder.path(), &elsewhere, "").code, 0);
    let page = fs::read_to_string(folder.path().join("web/h.html")).unwrap();
    assert!(page.contains("<img src=\"../img/image1.png\""), "{page}");

    let embedded = obblet(folder.path(), &["convert", demo, "-"], "");
    assert!(embedded.out.contains("<img src=\"data:image/png;base64,"));
}

#[test]
fn houses_can_be_listed_shown_and_read_back() {
    let folder = scratch(&[("t.md", "# T\n")]);
    assert!(obblet(folder.path(), &["house"], "").out.starts_with("page "));
    let shown = obblet(folder.path(), &["house", "show", "body"], "");
    fs::write(folder.path().join("mine.toml"), &shown.out).unwrap();
    let ran = obblet(folder.path(), &["convert", "t.md", "-", "--house", "mine.toml"], "");
    assert_eq!(ran.out, "<h1 id=\"t\">T</h1>\n");
}

#[test]
fn help_names_every_command_and_the_exit_codes() {
    let folder = scratch(&[]);
    let help = obblet(folder.path(), &["--help"], "");
    for word in ["convert", "publish", "house", "demo", "Exit codes", "First steps"] {
        assert!(help.out.contains(word), "{word}");
    }
}

#[test]
fn compare_counts_first_then_tells_each_difference_with_its_lines() {
    let folder = scratch(&[
        ("old.md", "# Tides\n\nHigh water at *noon*.\n"),
        ("new.md", "## Tides\n\nHigh water at one.\n"),
    ]);
    let ran = obblet(folder.path(), &["compare", "old.md", "new.md"], "");
    let wanted = "           left  right  kept  changed  moved  missing  extra
heading       1      1     ·        1      ·        ·      ·
paragraph     1      1     ·        1      ·        ·      ·
emphasis      1      0     ·        ·      ·        1      ·

old.md:1 | new.md:1: heading changed: level 1 became 2
old.md:3 | new.md:3: paragraph changed: “noon” became “one”
old.md:3 | new.md:3: emphasis missing: emphasis of “noon”
";
    assert_eq!((ran.code, ran.out.as_str(), ran.talk.as_str()), (1, wanted, ""));

    let ignored = ["compare", "old.md", "new.md", "--ignore", "heading,paragraph,emphasis"];
    let ran = obblet(folder.path(), &ignored, "");
    assert_eq!(ran.code, 0);
    assert!(ran.out.ends_with("The two documents say the same.\n"), "{}", ran.out);

    let ran = obblet(folder.path(), &["compare", "old.md", "new.md", "--json"], "");
    let json: serde_json::Value = serde_json::from_str(&ran.out).unwrap();
    assert_eq!((ran.code, &json["same"]), (1, &false.into()));
    assert_eq!(json["differences"][0]["kind"], "heading");
    assert_eq!(json["differences"][1]["left_position"]["line"], 3);
    assert_eq!(json["counts"][2]["missing"], 1);
}

#[test]
fn compare_takes_two_formats_and_standard_input() {
    let folder = scratch(&[("page.html", "<h1>Tides</h1><ul><li>neap<li>spring</ul>")]);
    let arguments = ["compare", "-", "page.html"];
    let ran = obblet(folder.path(), &arguments, "Tides\n=====\n\n* neap\n* spring\n");
    assert_eq!(ran.code, 0, "{}{}", ran.out, ran.talk);
    assert!(ran.out.ends_with("The two documents say the same.\n"));
    let wrong = obblet(folder.path(), &["compare", "-", "page.html", "--ignore", "fonts"], "");
    assert_eq!(wrong.code, 2);
    assert!(
        wrong.talk.contains("there is no such kind; there are heading, paragraph"),
        "{}",
        wrong.talk
    );
    let gone = obblet(folder.path(), &["compare", "gone.md", "page.html"], "");
    assert_eq!(gone.code, 3);
    assert_eq!(obblet(folder.path(), &["compare", "-", "-"], "").code, 2);
}

#[test]
fn a_document_becomes_markdown_by_its_target_s_name_and_the_house_s_marks() {
    let folder = scratch(&[("a.html", "<h1>Tides</h1><p>High <b>water</b></p><ul><li>neap</ul>")]);
    let settings = [
        "--set",
        "markdown.headings=underlined",
        "--set",
        "markdown.bullet=*",
        "--set",
        "markdown.emphasis=_",
    ];
    let ran = obblet(folder.path(), &[&["convert", "a.html", "a.md"], &settings[..]].concat(), "");
    assert_eq!((ran.code, ran.talk.as_str()), (0, ""));
    let text = fs::read_to_string(folder.path().join("a.md")).unwrap();
    assert_eq!(text, "Tides\n=====\n\nHigh __water__\n\n* neap\n");
    let wrong = obblet(folder.path(), &["convert", "a.html", "-", "--set", "markdown.wrap=3"], "");
    assert_eq!(wrong.code, 2);
    assert!(
        wrong.talk.contains("markdown.wrap takes 0, or a whole number from 20 to 1000"),
        "{}",
        wrong.talk
    );
}

#[test]
fn pages_are_cleaned_to_standard_output_or_in_place_with_a_backup() {
    let noisy =
        "<p class=MsoNormal><span style='font-weight:700'>High</span>&nbsp; water<o:p></o:p></p>";
    let clean = "<p><strong>High</strong> water</p>\n";
    let folder = scratch(&[("a.html", noisy), ("b.html", clean)]);
    let piped = obblet(folder.path(), &["clean"], noisy);
    assert_eq!((piped.code, piped.out.as_str()), (0, clean));
    let expected = "standard input: 87 bytes became 35 (35 characters); 0 lost, 0 changed, 1 repaired, 0 problems\n";
    assert_eq!(piped.talk, expected);

    let ran = obblet(folder.path(), &["clean", "--in-place", "a.html", "gone.html", "b.html"], "");
    assert_eq!(ran.code, 3, "{}", ran.talk);
    assert!(ran.talk.contains("gone.html cannot be read"), "{}", ran.talk);
    assert!(ran.talk.contains("the file as it was is a.html.bak"), "{}", ran.talk);
    assert!(ran.talk.trim_end().ends_with("0 problems; unchanged"), "{}", ran.talk);
    let read = |name: &str| fs::read_to_string(folder.path().join(name)).unwrap();
    assert_eq!(
        (read("a.html"), read("a.html.bak"), read("b.html")),
        (clean.into(), noisy.into(), clean.into())
    );
    assert!(!folder.path().join("b.html.bak").exists());

    // A backup is never overwritten.
    fs::write(folder.path().join("a.html"), "<p>new<br></p>").unwrap();
    obblet(folder.path(), &["clean", "--in-place", "a.html"], "");
    assert_eq!((read("a.html.bak"), read("a.html.bak2")), (noisy.into(), "<p>new<br></p>".into()));

    let page = obblet(folder.path(), &["clean"], "<title>Tides</title><body lang=de><p>Ebbe");
    assert!(page.out.starts_with("<!DOCTYPE html>\n<html lang=\"de\">"), "{}", page.out);
    let again = obblet(folder.path(), &["clean"], &page.out);
    assert_eq!(again.out, page.out);
    let usage = obblet(folder.path(), &["clean", "--in-place"], "");
    assert_eq!(usage.code, 2, "{}", usage.talk);
    let usage = obblet(folder.path(), &["clean", "--set", "repairs.typed_list=false"], "");
    assert!(
        usage.code == 2 && usage.talk.contains("did you mean repairs.typed_lists?"),
        "{}",
        usage.talk
    );
}

#[test]
fn a_house_is_started_changed_and_used_with_its_files() {
    let folder = scratch(&[
        ("t.md", "# Tides\n\nSee **the mtmt**.\n"),
        ("trust/trust.css", "h1 { color: #123456 }\n"),
        ("trust/end.html", "<footer>{{ leaf.title }} of the trust</footer>\n"),
    ]);
    let started =
        obblet(folder.path(), &["house", "new", "trust/trust.toml", "--like", "body"], "");
    assert_eq!(started.code, 0, "{}", started.talk);
    assert!(started.talk.contains("--house trust/trust.toml"), "{}", started.talk);
    let again = obblet(folder.path(), &["house", "new", "trust/trust.toml"], "");
    assert!(again.code == 2 && again.talk.contains("is there already"), "{}", again.talk);

    let house = folder.path().join("trust/trust.toml");
    let text = fs::read_to_string(&house).unwrap();
    assert!(text.contains("#extent = \"body\"") && text.contains("#[[rules]]"), "{text}");
    let changed = text
        .replace("#extent = \"body\"", "extent = \"page\"")
        .replace("#theme = \"screen\"", "theme = \"none\"")
        .replace("#style_sheets = []", "style_sheets = [\"trust.css\"]")
        .replace("#footer = \"\"", "footer = \"end.html\"")
        .replace("#style_placement = \"embedded\"", "style_placement = \"linked\"")
        .replace("#protected = []", "protected = [\"mtmt\"]")
        .replace("#[[rules]]\n#on = \"strong\"\n#case", "[[rules]]\non = \"strong\"\ncase")
        .replace("#unwrap = true", "unwrap = true");
    fs::write(&house, changed).unwrap();
    let ran =
        obblet(folder.path(), &["convert", "t.md", "t.html", "--house", "trust/trust.toml"], "");
    assert_eq!(ran.code, 0, "{}", ran.talk);
    let page = fs::read_to_string(folder.path().join("t.html")).unwrap();
    for expected in [
        "<link rel=\"stylesheet\" href=\"t.css\">",
        "<p>See THE mtmt.</p>",
        "<footer>Tides of the trust</footer>",
    ] {
        assert!(page.contains(expected), "{expected} is not in {page}");
    }
    let sheet = fs::read_to_string(folder.path().join("t.css")).unwrap();
    assert_eq!(sheet, "h1 { color: #123456 }\n");

    // A file that the house names and that is not there, a rule that is wrong.
    fs::remove_file(folder.path().join("trust/end.html")).unwrap();
    let ran = obblet(folder.path(), &["convert", "t.md", "-", "--house", "trust/trust.toml"], "");
    assert!(ran.code == 3 && ran.talk.contains("end.html cannot be read"), "{}", ran.talk);
    fs::write(&house, "[[rules]]\non = \"p\"\ncase = \"loud\"\n").unwrap();
    let ran = obblet(folder.path(), &["convert", "t.md", "-", "--house", "trust/trust.toml"], "");
    assert_eq!(ran.code, 2);
    assert!(ran.talk.contains("trust.toml: line 3: rules.case takes \"capitals\""), "{}", ran.talk);
}

#[test]
fn a_house_says_the_format_where_nobody_else_does() {
    let folder = scratch(&[("t.md", "# Tides\n\nSee *the* [log](log.md).\n")]);
    let text = obblet(folder.path(), &["convert", "t.md", "--house", "text"], "");
    assert_eq!(text.out, "Tides\n=====\n\nSee the log [1].\n\n[1] log.md\n");
    obblet(folder.path(), &["convert", "t.md", "t.html", "--house", "text"], "");
    assert!(fs::read_to_string(folder.path().join("t.html")).unwrap().contains("<html"));
    let short = ["convert", "t.md", "--house", "listing", "--set", "limits.characters=20"];
    let first = obblet(folder.path(), &short, "").talk.lines().next().unwrap().to_string();
    assert!(first.contains("problem: the output is too long for its destination"), "{first}");
    obblet(folder.path(), &["convert", "t.md", "t.txt"], "");
    assert!(fs::read_to_string(folder.path().join("t.txt")).unwrap().starts_with("Tides\n====="));
}

#[test]
fn pictures_are_embedded_from_the_source_s_folder_and_from_nowhere_else() {
    let png = "\u{89}PNG\r\n\u{1a}\n";
    let bytes: Vec<u8> = png.chars().map(|c| c as u8).collect();
    let folder = scratch(&[("in/t.md", "![a](a.png) ![b](../b.png)\n")]);
    fs::write(folder.path().join("in/a.png"), &bytes).unwrap();
    fs::write(folder.path().join("b.png"), &bytes).unwrap();
    let arguments =
        ["convert", "in/t.md", "--house", "body", "--set", "pictures.placement=embedded"];
    let ran = obblet(folder.path(), &arguments, "");
    assert!(
        ran.out.contains("data:image/png;base64,") && ran.out.contains("../b.png"),
        "{}",
        ran.out
    );
    assert!(ran.talk.contains("in/t.md:1:1: problem: the picture is not there"), "{}", ran.talk);
}

#[test]
fn shells_and_man_are_told_of_every_command() {
    let folder = scratch(&[]);
    for shell in ["bash", "zsh", "fish", "powershell", "elvish"] {
        let ran = obblet(folder.path(), &["completions", shell], "");
        assert_eq!(ran.code, 0, "{shell}");
        for word in ["publish", "check", "--explain", "dry-run"] {
            assert!(ran.out.contains(word.trim_start_matches('-')), "{shell} {word}");
        }
    }
    let ran = obblet(folder.path(), &["manual"], "");
    assert!(ran.out.contains(".TH obblet 1") && ran.out.contains("First steps"), "{}", ran.out);
    let ran = obblet(folder.path(), &["manual", "man1"], "");
    assert_eq!(ran.code, 0, "{}", ran.talk);
    for page in ["obblet", "obblet-check", "obblet-house-show"] {
        let text = fs::read_to_string(folder.path().join(format!("man1/{page}.1"))).unwrap();
        assert!(text.contains(&format!(".TH {page} 1")), "{text}");
    }
}

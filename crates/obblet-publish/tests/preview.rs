//! What the preview answers, and to whom.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod scene;

use obblet_publish::{Preview, PreviewError, PublishOptions};
use scene::Scene;
use std::io::{Read as _, Write as _};
use std::net::TcpStream;
use std::time::Duration;

/// Asks as a browser would, by this name of the server.
fn ask(address: &str, host: Option<&str>, request: &str) -> String {
    let own = address.trim_start_matches("http://").trim_end_matches('/');
    let mut stream = TcpStream::connect(own).unwrap();
    let host = host.unwrap_or(own);
    write!(stream, "{request} HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\r\n").unwrap();
    let mut answer = Vec::new();
    stream.read_to_end(&mut answer).unwrap();
    String::from_utf8_lossy(&answer).into_owned()
}

fn with_preview(scene: &Scene, path: &str, test: impl FnOnce(&str)) {
    let preview = Preview::open(&scene.source().join(path), &PublishOptions::default(), 0).unwrap();
    let (address, stop) = (preview.address(), preview.stopper());
    assert!(address.starts_with("http://127.0.0.1:"), "{address}");
    std::thread::scope(|scope| {
        let served = scope.spawn(|| preview.serve().unwrap());
        // A test that fails must not leave the server waiting.
        let tested = std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| test(&address)));
        stop();
        served.join().unwrap();
        tested.unwrap();
    });
}

#[test]
fn it_answers_what_it_should_and_nothing_else() {
    let scene = Scene::new(&[
        ("a.md", "# A\n\n![w](w.svg) [gone](gone.md) <script>x()</script>\n"),
        ("in/b.org", "* B\n"),
        ("w.svg", "<svg/>"),
        ("small.toml", "like = \"listing\"\n"),
    ]);
    std::fs::write(scene.scratch.path().join("secret.md"), "SECRET").unwrap();
    with_preview(&scene, "", |address| {
        let cases = [
            ("GET /", "200", "<iframe id=\"page\""),
            ("GET /frame.js", "200", "addEventListener"),
            ("GET /houses", "200", "[\"own\",\"page\",\"body\""),
            ("GET /houses", "200", "\"small.toml\"]"),
            ("GET /documents/own/", "200", "{\"source\":\"in/b.org\",\"target\":\"in/b.html\"}"),
            ("GET /documents/ebook/", "200", "\"target\":\"a.xhtml\""),
            ("GET /page/own/a.html", "200", "<h1 id=\"a\">A</h1>"),
            ("GET /page/own/w.svg", "200", "image/svg+xml"),
            ("GET /page/body/in/b.html", "200", "<h1 id=\"b\">B</h1>"),
            ("GET /facts/own/a.html", "200", "\"code\":\"link-broken\",\"line\":3"),
            ("GET /facts/small.toml/a.html", "200", "\"most\":2000"),
            ("GET /page/own/gone.html", "404", "there is no document"),
            ("GET /page/own/../../secret.md", "404", "there is no document"),
            ("GET /page/own/%2e%2e/secret.md", "404", "there is no document"),
            ("GET /page/nowhere/a.html", "200", "<h1 id=\"a\">A</h1>"),
            ("GET /elsewhere", "404", "nothing here"),
            ("POST /page/own/a.html", "403", "loopback"),
        ];
        for (request, status, expected) in cases {
            let answer = ask(address, None, request);
            assert!(answer.starts_with(&format!("HTTP/1.1 {status}")), "{request}: {answer}");
            assert!(answer.contains(expected), "{request}: {expected} is not in\n{answer}");
            // What stands in the folder runs nothing here.
            let is_page = request.contains("/page/") && status == "200";
            let scripts = if is_page { "script-src 'none'" } else { "script-src 'self'" };
            assert!(answer.contains(&format!("default-src 'self' data:; {scripts}")), "{request}");
            assert!(answer.contains("frame-ancestors 'self'"), "{request}");
            assert_eq!(answer.contains("sandbox allow-same-origin"), is_page, "{request}");
            assert!(!answer.contains("SECRET"), "{request}");
            assert!(!request.contains("/page/") || !answer.contains("x()</script>"), "{request}");
        }
        let answer = ask(address, Some("evil.example"), "GET /page/own/a.html");
        assert!(answer.starts_with("HTTP/1.1 403"), "{answer}");
    });
}

/// A body that is promised and never comes costs nothing.
#[test]
fn a_long_body_that_is_only_promised_does_no_harm() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    with_preview(&scene, "", |address| {
        let own = address.trim_start_matches("http://").trim_end_matches('/');
        let mut stream = TcpStream::connect(own).unwrap();
        let head = "POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 40000000000\r\n\r\n";
        stream.write_all(head.as_bytes()).unwrap();
        std::thread::sleep(Duration::from_millis(200));
        drop(stream);
        assert!(ask(address, None, "GET /page/own/a.html").starts_with("HTTP/1.1 200"));
    });
}

/// Those who are slow, or have very much to say, keep nobody else waiting for long.
#[test]
fn slow_and_talkative_clients_are_bounded() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    with_preview(&scene, "", |address| {
        let own = address.trim_start_matches("http://").trim_end_matches('/');
        let slow: Vec<TcpStream> = (0..150)
            .map(|_| {
                let mut stream = TcpStream::connect(own).unwrap();
                stream.write_all(b"GET / HTTP/1.1\r\nHost: ").unwrap();
                stream
            })
            .collect();
        assert!(ask(address, None, "GET /page/own/a.html").starts_with("HTTP/1.1 200"));
        // More than there is room for: they are hung up on.
        let more: Vec<TcpStream> = (0..300).map(|_| TcpStream::connect(own).unwrap()).collect();
        let is_gone = |mut stream: &TcpStream| {
            stream.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
            stream.read(&mut [0]).map_or(true, |read| read == 0)
        };
        assert!(is_gone(&more[299]));
        // Those that never come to the point are, after a while.
        assert!(slow.iter().all(is_gone));
        drop((slow, more));
        assert!(ask(address, None, "GET /page/own/a.html").starts_with("HTTP/1.1 200"));

        let mut long = TcpStream::connect(own).unwrap();
        let line = format!("X-A: {}\r\n", "a".repeat(1000));
        let mut sent = 0;
        long.write_all(format!("GET / HTTP/1.1\r\nHost: {own}\r\n").as_bytes()).unwrap();
        while sent < 30_000 && long.write_all(line.as_bytes()).is_ok() {
            sent += 1;
        }
        assert!(sent < 30_000, "a head of 30 MB was taken");
        assert!(ask(address, None, "GET /page/own/a.html").starts_with("HTTP/1.1 200"));
    });
}

/// Paths in every disguise lead to nothing outside of the folder.
#[test]
fn disguised_paths_stay_inside() {
    let scene = Scene::new(&[("a.md", "# A\n"), ("in/b.md", "# B\n")]);
    std::fs::write(scene.scratch.path().join("secret.svg"), "SECRET").unwrap();
    let paths = [
        "/page/own/..%2fsecret.svg",
        "/page/own/%2e%2e/secret.svg",
        "/page/own/%2e%2e%2fsecret.svg",
        "/page/own/in/..%2f..%2fsecret.svg",
        "/page/own/..%5csecret.svg",
        "/page/own/..\\secret.svg",
        "/page/own/%252e%252e%252fsecret.svg",
        "/page/own/..%00/secret.svg",
        "/page/own/....//secret.svg",
        "/page/own//secret.svg",
        "/page/own/%2fetc%2fpasswd",
        "/page/own//etc/passwd",
        "/page/..%2f..%2fsecret.svg/a.html",
        "/facts/own/..%2fsecret.svg",
        "/page/own/in/../../secret.svg",
        "/page/own/%c0%ae%c0%ae/secret.svg",
        "/page/own/file:///etc/passwd",
    ];
    with_preview(&scene, "", |address| {
        for path in paths {
            let answer = ask(address, None, &format!("GET {path}"));
            let is_refused =
                ["404", "400"].iter().any(|code| answer.contains(&format!(" {code} ")));
            assert!(is_refused, "{path}: {answer}");
            assert!(!answer.contains("SECRET") && !answer.contains("root:"), "{path}: {answer}");
        }
        for host in ["evil.example", "127.0.0.1:1", "localhost", "127.0.0.1.evil.example:80", ""] {
            let answer = ask(address, Some(host), "GET /page/own/a.html");
            assert!(answer.contains(" 403 ") || answer.contains(" 400 "), "{host}: {answer}");
        }
        for method in ["POST", "PUT", "DELETE", "OPTIONS", "TRACE", "CONNECT", "BREW"] {
            let answer = ask(address, None, &format!("{method} /page/own/a.html"));
            assert!(!answer.contains(" 200 "), "{method}: {answer}");
        }
    });
}

#[test]
fn it_notices_changes_and_shows_them() {
    let scene = Scene::new(&[("a.md", "# Before\n"), ("b.md", "# B\n")]);
    with_preview(&scene, "a.md", |address| {
        let documents = ask(address, None, "GET /documents/own/");
        assert!(documents.contains("a.md") && !documents.contains("b.md"), "{documents}");
        let count =
            |answer: &str| answer.rsplit("\r\n").next().unwrap().trim().parse::<u64>().unwrap();
        let seen = count(&ask(address, None, "GET /changes"));
        assert!(ask(address, None, "GET /page/own/a.html").contains("Before"));
        scene.put("a.md", b"# Behind\n");
        let now = count(&ask(address, None, &format!("GET /changes?seen={seen}")));
        assert!(now > seen);
        assert!(ask(address, None, "GET /page/own/a.html").contains("Behind"));
    });
}

/// A document that is published as several pages is one here, and links to places in it hold.
#[test]
fn split_documents_are_whole() {
    let scene = Scene::new(&[
        ("obblet.toml", "split = 2\n"),
        ("a.md", "[hub](book.md#hub)\n"),
        ("book.md", "# Book\n\nText.\n\n## Floats\n\nOak.\n\n## Hub\n\nIron.\n"),
    ]);
    with_preview(&scene, "", |address| {
        let page = ask(address, None, "GET /page/own/a.html");
        assert!(page.contains("<a href=\"book.html#hub\">hub</a>"), "{page}");
        assert!(ask(address, None, "GET /page/own/book.html").contains("Iron."));
    });
}

#[test]
fn what_cannot_be_opened_is_told() {
    let scene = Scene::new(&[("obblet.toml", "titel = 1\n")]);
    let open = |path: &str, port| {
        Preview::open(&scene.source().join(path), &PublishOptions::default(), port).err().unwrap()
    };
    assert!(matches!(open("gone.md", 0), PreviewError::Source { .. }));
    assert!(open("", 0).to_string().contains("unknown field `titel`"));
    std::fs::remove_file(scene.source().join("obblet.toml")).unwrap();
    let taken = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let port = taken.local_addr().unwrap().port();
    assert!(matches!(open("", port), PreviewError::Listen { .. }));
}

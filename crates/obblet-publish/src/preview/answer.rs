//! What the preview answers to a browser.

use super::desk::Desk;
use percent_encoding::percent_decode_str;
use std::io::Cursor;
use std::time::Duration;
use tiny_http::{Header, Method, Request, Response};

const FRAME: &str = include_str!("frame.html");
const FRAME_STYLE: &str = include_str!("frame.css");
const FRAME_SCRIPT: &str = include_str!("frame.js");

/// How long somebody waits for a change before asking again.
const WAIT: Duration = Duration::from_secs(20);

/// The longest body that a request may say it has; none of those that are answered needs one.
const LONGEST_BODY: usize = 1 << 20;

/// Pages ask nobody but this server, and run no scripts but its own; documents may bring styles and
/// pictures.
const POLICY: &str = "default-src 'self' data:; script-src 'self'; style-src 'self' 'unsafe-inline'; \
                      base-uri 'self'; form-action 'self'; frame-ancestors 'self'";

/// What stands in the folder runs no scripts at all here, also in a tab of its own: they could ask this server
/// for the other documents.
const POLICY_OF_PAGES: &str = "default-src 'self' data:; script-src 'none'; \
                               style-src 'self' 'unsafe-inline'; base-uri 'self'; form-action 'none'; \
                               frame-ancestors 'self'; sandbox allow-same-origin";

type Answer = Response<Cursor<Vec<u8>>>;

/// Answers one request. A browser that is gone already needs no answer.
pub(super) fn answer(request: Request, desk: &Desk, port: u16) {
    if request.body_length().is_some_and(|length| length > LONGEST_BODY) {
        // Dropped or answered, the request would first read its body into memory, all at once.
        std::mem::forget(request);
        return;
    }
    let answer = if is_for_us(&request, port) {
        let url = request.url().to_string();
        routed(&url, desk)
    } else {
        plain(403, "This preview answers on the loopback address only.")
    };
    let _ = request.respond(answer);
}

/// Whether the request is one to read, for this server by its own name: pages of other servers must
/// not reach it under theirs.
fn is_for_us(request: &Request, port: u16) -> bool {
    let host = request.headers().iter().find(|header| header.field.equiv("Host"));
    let host = host.map_or("", |header| header.value.as_str());
    let own = [format!("127.0.0.1:{port}"), format!("localhost:{port}")];
    matches!(request.method(), Method::Get | Method::Head) && own.iter().any(|name| name == host)
}

fn routed(url: &str, desk: &Desk) -> Answer {
    let (path, query) = url.split_once('?').unwrap_or((url, ""));
    let decoded = percent_decode_str(path).decode_utf8_lossy().into_owned();
    let mut parts = decoded.trim_start_matches('/').splitn(3, '/');
    let what = parts.next().unwrap_or_default();
    let (house, target) = (parts.next().unwrap_or_default(), parts.next().unwrap_or_default());
    match what {
        "" => text(200, "text/html; charset=utf-8", FRAME),
        "frame.css" => text(200, "text/css", FRAME_STYLE),
        "frame.js" => text(200, "text/javascript", FRAME_SCRIPT),
        "houses" => json(&desk.houses()),
        "documents" => match desk.choices(house) {
            Ok(choices) => json(&choices),
            Err(error) => plain(500, &error.to_string()),
        },
        "facts" => match desk.shown(house, target) {
            Ok(shown) => json(&shown.facts),
            Err(why) => plain(404, &why),
        },
        "page" => page(desk, house, target),
        "changes" => changes(desk, query),
        _ => plain(404, "There is nothing here."),
    }
}

fn page(desk: &Desk, house: &str, target: &str) -> Answer {
    match desk.shown(house, target) {
        Ok(shown) => bytes_under(POLICY_OF_PAGES, 200, shown.media_type, shown.bytes.clone()),
        Err(why) => match desk.file(house, target) {
            Some(file) => bytes_under(POLICY_OF_PAGES, 200, media_type(target), file),
            None => plain(404, &why),
        },
    }
}

/// Waits until there has been another change than somebody has seen.
fn changes(desk: &Desk, query: &str) -> Answer {
    let seen = query.strip_prefix("seen=").and_then(|seen| seen.parse().ok());
    let now = match seen {
        Some(seen) => desk.changes.wait(seen, WAIT).unwrap_or(seen),
        None => desk.changes.count(),
    };
    json(&now)
}

/// What browsers are told that a file is, by its name.
fn media_type(name: &str) -> &'static str {
    const TYPES: [(&str, &str); 18] = [
        ("svg", "image/svg+xml"),
        ("png", "image/png"),
        ("jpg", "image/jpeg"),
        ("jpeg", "image/jpeg"),
        ("gif", "image/gif"),
        ("webp", "image/webp"),
        ("avif", "image/avif"),
        ("bmp", "image/bmp"),
        ("css", "text/css"),
        ("js", "text/javascript"),
        ("json", "application/json"),
        ("html", "text/html; charset=utf-8"),
        ("htm", "text/html; charset=utf-8"),
        ("xhtml", "application/xhtml+xml"),
        ("pdf", "application/pdf"),
        ("txt", "text/plain; charset=utf-8"),
        ("woff", "font/woff"),
        ("woff2", "font/woff2"),
    ];
    let ending = name.rsplit('.').next().unwrap_or_default();
    let known = TYPES.iter().find(|(known, _)| known.eq_ignore_ascii_case(ending));
    known.map_or("application/octet-stream", |(_, media_type)| media_type)
}

fn json(data: &impl serde::Serialize) -> Answer {
    bytes(200, "application/json", serde_json::to_vec(data).unwrap_or_default())
}

fn plain(status: u16, words: &str) -> Answer {
    text(status, "text/plain; charset=utf-8", words)
}

fn text(status: u16, media_type: &str, text: &str) -> Answer {
    bytes(status, media_type, text.as_bytes().to_vec())
}

fn bytes(status: u16, media_type: &str, bytes: Vec<u8>) -> Answer {
    bytes_under(POLICY, status, media_type, bytes)
}

fn bytes_under(policy: &str, status: u16, media_type: &str, bytes: Vec<u8>) -> Answer {
    let mut answer = Response::from_data(bytes).with_status_code(status);
    let headers = [
        ("Content-Type", media_type),
        ("Content-Security-Policy", policy),
        ("X-Content-Type-Options", "nosniff"),
        ("Referrer-Policy", "no-referrer"),
        ("Cache-Control", "no-store"),
    ];
    // All of them are ASCII, as headers have to be.
    for header in headers.iter().filter_map(|(name, value)| Header::from_bytes(*name, *value).ok())
    {
        answer.add_header(header);
    }
    answer
}

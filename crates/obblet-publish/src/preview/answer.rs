//! What the preview answers to a browser.

use super::desk::Desk;
use http_body_util::Full;
use hyper::body::Bytes;
use hyper::header::{self, HeaderName, HeaderValue};
use hyper::{Response, StatusCode};
use percent_encoding::percent_decode_str;
use std::time::Duration;

const FRAME: &str = include_str!("frame.html");
const FRAME_STYLE: &str = include_str!("frame.css");
const FRAME_SCRIPT: &str = include_str!("frame.js");

/// How long somebody waits for a change before asking again.
const WAIT: Duration = Duration::from_secs(20);

/// Pages ask nobody but this server, and run no scripts but its own; documents may bring styles and
/// pictures.
const POLICY: &str = "default-src 'self' data:; script-src 'self'; style-src 'self' 'unsafe-inline'; \
                      base-uri 'self'; form-action 'self'; frame-ancestors 'self'";

/// What stands in the folder runs no scripts at all here, also in a tab of its own: they could ask this server
/// for the other documents.
const POLICY_OF_PAGES: &str = "default-src 'self' data:; script-src 'none'; \
                               style-src 'self' 'unsafe-inline'; base-uri 'self'; form-action 'none'; \
                               frame-ancestors 'self'; sandbox allow-same-origin";

/// What an answer holds.
pub(super) type Answer = Full<Bytes>;

/// What somebody wants to know.
pub(super) struct Question {
    /// Nothing is to be changed by it.
    pub(super) is_to_read: bool,
    /// The name of the server, as the client knows it.
    pub(super) host: String,
    pub(super) path: String,
    pub(super) query: String,
}

/// Answers one request.
pub(super) fn answer(question: &Question, desk: &Desk, port: u16) -> Response<Answer> {
    if is_for_us(question, port) {
        routed(&question.path, &question.query, desk)
    } else {
        plain(403, "This preview answers on the loopback address only.")
    }
}

/// The answer when none could be made.
pub(super) fn broke_off() -> Response<Answer> {
    plain(500, "The preview broke off; please report this.")
}

/// Whether the request is one to read, for this server by its own name: pages of other servers must
/// not reach it under theirs.
fn is_for_us(question: &Question, port: u16) -> bool {
    let own = [format!("127.0.0.1:{port}"), format!("localhost:{port}")];
    question.is_to_read && own.contains(&question.host)
}

fn routed(path: &str, query: &str, desk: &Desk) -> Response<Answer> {
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

fn page(desk: &Desk, house: &str, target: &str) -> Response<Answer> {
    match desk.shown(house, target) {
        Ok(shown) => bytes_under(POLICY_OF_PAGES, 200, shown.media_type, shown.bytes.clone()),
        Err(why) => match desk.file(house, target) {
            Some(file) => bytes_under(POLICY_OF_PAGES, 200, media_type(target), file),
            None => plain(404, &why),
        },
    }
}

/// Waits until there has been another change than somebody has seen.
fn changes(desk: &Desk, query: &str) -> Response<Answer> {
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

fn json(data: &impl serde::Serialize) -> Response<Answer> {
    bytes(200, "application/json", serde_json::to_vec(data).unwrap_or_default())
}

fn plain(status: u16, words: &str) -> Response<Answer> {
    text(status, "text/plain; charset=utf-8", words)
}

fn text(status: u16, media_type: &'static str, text: &str) -> Response<Answer> {
    bytes(status, media_type, text.as_bytes().to_vec())
}

fn bytes(status: u16, media_type: &'static str, bytes: Vec<u8>) -> Response<Answer> {
    bytes_under(POLICY, status, media_type, bytes)
}

fn bytes_under(
    policy: &'static str,
    status: u16,
    media_type: &'static str,
    bytes: Vec<u8>,
) -> Response<Answer> {
    let mut answer = Response::new(Full::new(Bytes::from(bytes)));
    *answer.status_mut() = StatusCode::from_u16(status).unwrap_or_default();
    let headers = [
        (header::CONTENT_TYPE, media_type),
        (header::CONTENT_SECURITY_POLICY, policy),
        (header::X_CONTENT_TYPE_OPTIONS, "nosniff"),
        (header::REFERRER_POLICY, "no-referrer"),
        (header::CACHE_CONTROL, "no-store"),
        (HeaderName::from_static("cross-origin-resource-policy"), "same-origin"),
    ];
    let headers = headers.map(|(name, value)| (name, HeaderValue::from_static(value)));
    answer.headers_mut().extend(headers);
    answer
}

//! Script injection: whatever a source says, what goes out runs nothing.
//!
//! Each vector goes in as raw HTML in Markdown, as a link, and as a picture; the output is parsed
//! anew, by the same parser into another tree, and looked at element by element.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::{Handle, NodeData, RcDom};
use obblet::document::Document;
use obblet::document::build::heading;
use obblet::{Format, WriteOptions, convert, write};

/// Raw HTML that runs something in some browser, past or present.
const MARKUP: &[&str] = &[
    "<script>alert(1)</script>",
    "<SCRIPT SRC=//x.example/x.js></SCRIPT>",
    "<scr<script>ipt>alert(1)</scr</script>ipt>",
    "<script/xss>alert(1)</script>",
    "<<script>alert(1);//<</script>",
    "<script>alert(1)",
    "<img src=x onerror=alert(1)>",
    "<img src=\"x\" onerror = \"alert(1)\">",
    "<img/src=x/onerror=alert(1)>",
    "<img src=x:x onerror\n=alert(1)>",
    "<IMG \"\"\"><SCRIPT>alert(1)</SCRIPT>\">",
    "<img src=`javascript:alert(1)`>",
    "<img dynsrc=javascript:alert(1) lowsrc=javascript:alert(1)>",
    "<svg onload=alert(1)>",
    "<svg><script>alert(1)</script></svg>",
    "<svg><a xlink:href=javascript:alert(1)><text>x</text></a></svg>",
    "<svg><animate onbegin=alert(1) attributeName=x></svg>",
    "<svg><foreignObject><iframe src=javascript:alert(1)></foreignObject></svg>",
    "<svg><style><img src=x onerror=alert(1)></style></svg>",
    "<math href=javascript:alert(1)>x</math>",
    "<math><mtext><table><mglyph><style><img src=x onerror=alert(1)></style></table></mtext></math>",
    "<math><mi//xlink:href=\"data:x,<script>alert(1)</script>\">",
    "<body onload=alert(1)>",
    "<body background=javascript:alert(1)>",
    "<iframe src=javascript:alert(1)></iframe>",
    "<iframe srcdoc=\"<script>alert(1)</script>\"></iframe>",
    "<object data=javascript:alert(1)></object>",
    "<embed src=javascript:alert(1)>",
    "<applet code=x></applet>",
    "<form action=javascript:alert(1)><input type=submit></form>",
    "<button formaction=javascript:alert(1)>x</button>",
    "<isindex action=javascript:alert(1) type=image>",
    "<input onfocus=alert(1) autofocus>",
    "<select onfocus=alert(1) autofocus></select>",
    "<textarea onfocus=alert(1) autofocus></textarea>",
    "<keygen autofocus onfocus=alert(1)>",
    "<video><source onerror=alert(1)></video>",
    "<video poster=javascript:alert(1)//></video>",
    "<audio src=x onerror=alert(1)>",
    "<details open ontoggle=alert(1)>x</details>",
    "<marquee onstart=alert(1)>x</marquee>",
    "<meta http-equiv=refresh content=\"0;url=javascript:alert(1)\">",
    "<link rel=stylesheet href=javascript:alert(1)>",
    "<base href=javascript:alert(1)//>",
    "<style>@import 'javascript:alert(1)';</style>",
    "<style>body{background:url(javascript:alert(1))}</style>",
    "<div style=\"width:expression(alert(1))\">x</div>",
    "<div style=\"background-image:url(javascript:alert(1))\">x</div>",
    "<div style=\"behavior:url(x.htc)\">x</div>",
    "<div onmouseover='alert(1)'>x</div>",
    "<div id=a onclick=alert(1)//>x</div>",
    "<a href=javascript:alert(1)>x</a>",
    "<a href=\"java\nscript:alert(1)\">x</a>",
    "<a href=\"jav&#x09;ascript:alert(1)\">x</a>",
    "<a href=\"&#14; javascript:alert(1)\">x</a>",
    "<a href=\"&#106;&#97;&#118;&#97;&#115;&#99;&#114;&#105;&#112;&#116;&#58;alert(1)\">x</a>",
    "<a href=\"data:text/html;base64,PHNjcmlwdD5hbGVydCgxKTwvc2NyaXB0Pg==\">x</a>",
    "<a href=\"vbscript:msgbox(1)\">x</a>",
    "<table background=javascript:alert(1)><td>x</table>",
    "<td background=\"javascript:alert(1)\">",
    "<bgsound src=javascript:alert(1)>",
    "<xml><i><b>&lt;img src=1 onerror=alert(1)&gt;</b></i></xml>",
    "<noscript><p title=\"</noscript><img src=x onerror=alert(1)>\"></noscript>",
    "<title><img src=x onerror=alert(1)></title>",
    "<textarea><img src=x onerror=alert(1)></textarea>",
    "<xmp><img src=x onerror=alert(1)></xmp>",
    "<plaintext><img src=x onerror=alert(1)>",
    "<template><script>alert(1)</script></template>",
    "<!--[if gte IE 4]><script>alert(1)</script><![endif]-->",
    "<!--><img src=x onerror=alert(1)>-->",
    "<![CDATA[<script>alert(1)</script>]]>",
    "<?xml version=\"1.0\"?><script>alert(1)</script>",
    "<p title=\"<img src=x onerror=alert(1)>\">x</p>",
    "</p><script>alert(1)</script><p>",
    "<b <script>alert(1)</script>0",
    "<a onmouseover=alert(1) href=x.md>x</a>",
    "<ol start=1 onscroll=alert(1)><li value=1 onclick=alert(1)>x</ol>",
    "<time datetime=x onclick=alert(1)>x</time>",
];

/// Addresses that run something when they are followed.
const ADDRESSES: &[&str] = &[
    "javascript:alert(1)",
    "JAVASCRIPT:alert(1)",
    "javascript&colon;alert(1)",
    "&#x6A;avascript:alert(1)",
    "vbscript:msgbox(1)",
    "data:text/html,<script>alert(1)</script>",
    "livescript:alert(1)",
];

/// The elements that may stand in the output.
const HARMLESS: &[&str] = &[
    "html",
    "head",
    "body",
    "a",
    "abbr",
    "b",
    "blockquote",
    "br",
    "code",
    "details",
    "div",
    "em",
    "h1",
    "h2",
    "h3",
    "i",
    "img",
    "input",
    "li",
    "ol",
    "p",
    "pre",
    "span",
    "strong",
    "summary",
    "table",
    "tbody",
    "td",
    "time",
    "tr",
    "ul",
];

fn body(markdown: &str) -> String {
    let options = WriteOptions::house("body").unwrap();
    convert(markdown.as_bytes(), Format::Markdown, &options).unwrap().text().to_string()
}

/// What in the parsed output could run something.
fn dangers(html: &str) -> Vec<String> {
    let dom = parse_document(RcDom::default(), ParseOpts::default()).one(html);
    let mut found = Vec::new();
    let mut nodes: Vec<Handle> = vec![dom.document.clone()];
    while let Some(node) = nodes.pop() {
        if let NodeData::Element { name, attrs, .. } = &node.data {
            if !HARMLESS.contains(&&*name.local) {
                found.push(format!("<{}>", name.local));
            }
            for attribute in attrs.borrow().iter() {
                let (key, value) = (&*attribute.name.local, attribute.value.to_string());
                let scheme: String =
                    value.chars().filter(|c| *c > ' ').collect::<String>().to_ascii_lowercase();
                let runs = ["javascript:", "vbscript:", "livescript:", "data:"];
                if key.starts_with("on")
                    || matches!(key, "style" | "srcdoc" | "formaction" | "action" | "background")
                    || matches!(key, "href" | "src") && runs.iter().any(|s| scheme.starts_with(s))
                {
                    found.push(format!("{key}={value}"));
                }
            }
        }
        nodes.extend(node.children.borrow().iter().cloned());
    }
    found
}

#[test]
fn markup_runs_nothing() {
    assert!(MARKUP.len() >= 60);
    for vector in MARKUP {
        for markdown in [
            format!("{vector}\n"),
            format!("Text {vector} more.\n"),
            format!("- {vector}\n  | a |\n"),
        ] {
            let html = body(&markdown);
            assert_eq!(dangers(&html), [""; 0], "{markdown}\n{html}");
            // And again, for a browser that parses what another one has written.
            let again = body(&html);
            assert_eq!(dangers(&again), [""; 0], "{markdown}\n{again}");
        }
    }
}

#[test]
fn addresses_run_nothing() {
    for address in ADDRESSES {
        for markdown in [
            format!("[x](<{address}>)\n"),
            format!("![x](<{address}>)\n"),
            format!("[x]\n\n[x]: <{address}>\n"),
            format!("<{address}>\n"),
        ] {
            let html = body(&markdown);
            assert_eq!(dangers(&html), [""; 0], "{markdown}\n{html}");
        }
    }
}

/// Values that the page around the body shows: titles, ids, languages, descriptions.
#[test]
fn pages_run_nothing_either() {
    let attack = "a\"onmouseover=alert(1)//<script>alert(1)</script>'";
    let markdown = format!(
        "---\ntitle: >-\n  {attack}\nlang: >-\n  {attack}\ndescription: >-\n  {attack}\nauthor: >-\n  \
         {attack}\ndate: >-\n  {attack}\n---\n# x\n\n## {attack}\n"
    );
    let mut options = WriteOptions::house("page").unwrap();
    options.house.set("page.theme", "false").unwrap();
    options.surroundings.home = Some("../x\"onclick=alert(1)".into());
    options.surroundings.home_title = attack.into();
    let written = convert(markdown.as_bytes(), Format::Markdown, &options).unwrap();
    let frame = ["<title>", "<meta>", "<header>", "<nav>", "<main>"];
    let found = dangers(written.text());
    let found: Vec<&String> = found.iter().filter(|f| !frame.contains(&f.as_str())).collect();
    assert_eq!(found, [""; 0], "{}", written.text());

    // An id as a bookmark of a Word file may have it.
    let headings = ["a", "b"].map(|text| heading(2, text).with_id(format!("{text}\"{attack}")));
    let page = write(&Document::of(headings.to_vec()), &options).unwrap();
    let found = dangers(page.text());
    let found: Vec<&String> = found.iter().filter(|f| !frame.contains(&f.as_str())).collect();
    assert_eq!(found, [""; 0], "{}", page.text());
    assert!(page.text().contains("href=\"#a%22a%22onmouseover=alert(1)//"), "{}", page.text());
}

/// The check itself sees danger where there is some.
#[test]
fn the_check_is_not_blind() {
    for danger in ["<script>x</script>", "<p onclick=x>", "<a href=' javascript:x'>y</a>"] {
        assert_ne!(dangers(danger), [""; 0], "{danger}");
    }
}

#!/usr/bin/env python3
"""Makes Word files of the tide mill that together use all of WordprocessingML that documents use.

    make-word-samples.py FOLDER

They are made from their XML, so that each says exactly what it says; `word.py` holds what the
reader makes of them against counts of its own.
"""

import struct
import pathlib
import sys

from word_parts import *

SAMPLES = {}


def sample(function):
    SAMPLES[function.__name__.replace("_", "-")] = function
    return function


HEAD = [p("The mill", style="Heading1"), p("It turns with the tide.")]


@sample
def agreement():
    legal = abstract(
        1,
        level(0, "upperRoman", "Article %1.", 432, '<w:pStyle w:val="Article"/>'),
        level(1, "decimal", "%1.%2", 864, '<w:pStyle w:val="Clause"/><w:isLgl/>'),
        level(2, "lowerLetter", "(%3)", 1296, '<w:pStyle w:val="Subclause"/>'),
        level(3, "lowerRoman", "%1.%2(%3)(%4)", 1728, "<w:isLgl/>"),
    )
    styles = STYLES + "".join(
        style(
            "paragraph", identifier, name, "Normal",
            f'<w:numPr><w:ilvl w:val="{at}"/><w:numId w:val="1"/></w:numPr>' + more,
            "<w:b/><w:caps/>" if at == 0 else "",
        )
        for at, (identifier, name, more) in enumerate(
            [("Article", "Article Heading", '<w:keepNext/><w:outlineLvl w:val="0"/>'), ("Clause", "Clause", ""), ("Subclause", "Subclause", "")]
        )
    )
    body = [
        p("Agreement on the use of the pond", style="Title"),
        p("between the Marrowby Tide Mill Trust and the Estuary Rowing Club", ppr='<w:jc w:val="center"/>'),
        p("Definitions", style="Article"),
        p("“The pond” is the water between the dam and the bridge.", style="Clause"),
        p("“The season” runs", style="Clause"),
        p("from the first of April;", style="Subclause"),
        p("to the last of September;", style="Subclause"),
        p("but not", style="Subclause"),
        p("on days of the wheel festival,", num=(1, 3)),
        p("nor on days of repair.", num=(1, 3)),
        p("This paragraph interrupts the list and has no number.", ppr='<w:numPr><w:ilvl w:val="0"/><w:numId w:val="0"/></w:numPr>'),
        p("“Boats” are those with oars alone.", style="Clause"),
        p("Duties", style="Article"),
        p("The Club keeps the landing clean, as ", bookmark("clause_season", r("clause 1.2")), " says.", style="Clause"),
        p("The Trust opens the gate at the hours of the table.", style="Clause"),
        p("See ", field(r"REF clause_season \r \h", "1.2"), " above.", style="Subclause"),
        p("Signed:", ppr='<w:tabs><w:tab w:val="left" w:pos="4320" w:leader="underscore"/><w:tab w:val="left" w:pos="4800"/><w:tab w:val="left" w:pos="9072" w:leader="underscore"/></w:tabs>'),
        p("\t\t\t", ppr='<w:tabs><w:tab w:val="left" w:pos="4320" w:leader="underscore"/><w:tab w:val="left" w:pos="4800"/><w:tab w:val="left" w:pos="9072" w:leader="underscore"/></w:tabs>'),
        p("for the Trust\t\tfor the Club", ppr='<w:tabs><w:tab w:val="left" w:pos="4320"/><w:tab w:val="left" w:pos="4800"/></w:tabs>'),
    ]
    return Package("".join(body), styles, legal + num(1, 1))


def money(sign, amount, tcpr=""):
    right = '<w:jc w:val="right"/>'
    return cell(p(sign), tcpr='<w:tcW w:w="300" w:type="dxa"/>' + tcpr) + cell(p(amount, ppr=right), tcpr=tcpr)


@sample
def financial_statement():
    under = '<w:tcBorders><w:top w:val="single" w:sz="4"/></w:tcBorders>'
    double = '<w:tcBorders><w:top w:val="single" w:sz="4"/><w:bottom w:val="double" w:sz="6"/></w:tcBorders>'
    indent = '<w:ind w:left="240"/>'
    head = lambda text: cell(p(r(text, "b"), ppr='<w:jc w:val="center"/>'), tcpr='<w:gridSpan w:val="2"/><w:tcBorders><w:bottom w:val="single" w:sz="4"/></w:tcBorders>')
    line = lambda words, one, two, tcpr="", ppr="": row(cell(p(words, ppr=ppr)), money("", one, tcpr), money("", two, tcpr))
    rows = [
        row(cell(), head("2025"), head("2026"), trpr="<w:tblHeader/>"),
        row(cell(p(r("Income", "b"))), money("", ""), money("", "")),
        row(cell(p("Admissions", ppr=indent)), money("£", "41,208"), money("£", "44,915")),
        line("Flour", "9,317", "11,046", ppr=indent),
        line("Grants", "25,000", "—", ppr=indent),
        line("Total income", "75,525", "55,961", under),
        row(cell(p(r("Costs", "b"))), money("", ""), money("", "")),
        line("Wheel repairs", "(61,400)", "(18,250)", ppr=indent),
        line("Insurance", "(7,020)", "(7,215)", ppr=indent),
        row(cell(p(r("Surplus for the year", "b"))), money("£", "7,105", double), money("£", "30,496", double)),
    ]
    body = [p("Statement of activities", style="Heading1"), p("For the years ended 31 March", ppr='<w:jc w:val="center"/>', style=None)]
    body.append(table(*rows, widths=(4200, 300, 1500, 300, 1500), tblpr='<w:tblW w:w="0" w:type="auto"/><w:jc w:val="center"/>'))
    body.append(p("The notes are part of this statement."))
    return Package("".join(body))


@sample
def calendar():
    days = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"]
    shade = lambda fill: f'<w:shd w:val="clear" w:color="auto" w:fill="{fill}"/>'
    top = row(
        cell(p(r("June 2026", "b sz=40 color=FFFFFF")), tcpr='<w:gridSpan w:val="5"/>' + shade("0A5A6B") + '<w:vAlign w:val="center"/>'),
        cell(p(picture("rPic", "The wheel", 952500, 635000)), tcpr='<w:gridSpan w:val="2"/>'),
        trpr='<w:trHeight w:val="1200" w:hRule="atLeast"/>',
    )
    names = row(*(cell(p(r(day, "b"), ppr='<w:jc w:val="center"/>'), tcpr=shade("EAF3F5")) for day in days), trpr="<w:tblHeader/>")
    weeks = []
    for first in range(1, 31, 7):
        cells = []
        for day in range(first, first + 7):
            note = {6: "Open day", 13: "Spring tide", 21: "Longest day"}.get(day, "")
            text = [p(r(str(day), "sz=18"), ppr='<w:jc w:val="right"/>')] if day <= 30 else [p()]
            if note:
                text.append(p(r(note, "color=7D4A36 sz=18")))
            cells.append(cell(*text, tcpr='<w:tcMar><w:top w:w="60" w:type="dxa"/></w:tcMar>'))
        weeks.append(row(*cells, trpr='<w:trHeight w:val="900"/>'))
    side = row(
        cell(p("High water"), tcpr='<w:textDirection w:val="btLr"/><w:vMerge w:val="restart"/>'),
        *(cell(p(f"0{n}:1{n}")) for n in range(1, 7)),
        trpr='<w:trHeight w:val="1100"/>',
    )
    again = row(cell(p(), tcpr="<w:vMerge/>"), *(cell(p(f"1{n}:3{n}")) for n in range(1, 7)))
    body = table(top, names, *weeks, side, again, widths=(1300,) * 7, tblpr='<w:tblStyle w:val="TableGrid"/><w:tblLook w:val="0000"/>')
    found = Package(body + p("Tides at the outer piles."))
    found.add_file("image", "word/media/wheel.png", png(120, 80, (10, 90, 107)), "rPic")
    return found


def box(ticked):
    return (
        '<w:sdt><w:sdtPr><w:alias w:val="Done"/><w14:checkbox><w14:checked w14:val="%d"/><w14:checkedState w14:val="2612" w14:font="MS Gothic"/>'
        '<w14:uncheckedState w14:val="2610" w14:font="MS Gothic"/></w14:checkbox></w:sdtPr><w:sdtContent>%s</w:sdtContent></w:sdt>'
        % (ticked, r("☒" if ticked else "☐"))
    )


def form(kind, inside, result=""):
    mark = lambda which, data="": f'<w:r><w:fldChar w:fldCharType="{which}">{data}</w:fldChar></w:r>'
    data = f'<w:ffData><w:name w:val="x"/><w:enabled/>{inside}</w:ffData>'
    middle = mark("separate") + r(result) if result else ""
    return mark("begin", data) + f"<w:r><w:instrText> {kind} </w:instrText></w:r>" + middle + mark("end")


@sample
def checklist():
    control = lambda inside, shown: f"<w:sdt><w:sdtPr>{inside}</w:sdtPr><w:sdtContent>{r(shown)}</w:sdtContent></w:sdt>"
    body = [
        p("Before the wheel turns", style="Heading1"),
        p(box(1), r(" Gates are closed"), num=(1, 0)),
        p(box(0), r(" Bearings are greased"), num=(1, 0)),
        p(box(0), r(" Rails are dry")),
        p(form("FORMCHECKBOX", '<w:checkBox><w:sizeAuto/><w:default w:val="1"/></w:checkBox>'), r(" Lamp is lit")),
        p(form("FORMCHECKBOX", '<w:checkBox><w:default w:val="1"/><w:checked w:val="0"/></w:checkBox>'), r(" Bell is rung")),
        p("Captain: ", form("FORMDROPDOWN", '<w:ddList><w:result w:val="1"/><w:listEntry w:val="Ada Weir"/><w:listEntry w:val="Tom Leat"/></w:ddList>')),
        p("Name: ", form("FORMTEXT", '<w:textInput><w:default w:val="nobody"/></w:textInput>', "Hesper Sands")),
        p("Wind: ", control('<w:dropDownList><w:listItem w:displayText="south-west" w:value="sw"/></w:dropDownList>', "south-west")),
        p("Date: ", control('<w:date w:fullDate="2026-06-06T00:00:00Z"><w:dateFormat w:val="d MMMM yyyy"/><w:lid w:val="en-GB"/></w:date>', "6 June 2026")),
        p("Note: ", control('<w:showingPlcHdr/><w:text/>', "Tap here to write.")),
        '<w:sdt><w:sdtPr><w15:repeatingSection/></w:sdtPr><w:sdtContent><w:sdt><w:sdtPr><w15:repeatingSectionItem/></w:sdtPr><w:sdtContent>'
        + p("First watch: Ada") + "</w:sdtContent></w:sdt><w:sdt><w:sdtPr><w15:repeatingSectionItem/></w:sdtPr><w:sdtContent>" + p("Second watch: Tom")
        + "</w:sdtContent></w:sdt></w:sdtContent></w:sdt>",
        p(raw('<w:sym w:font="Wingdings" w:char="F0FE"/>'), r(" Sluice checked, "), raw('<w:sym w:font="Wingdings" w:char="F0A8"/>'), r(" sluice oiled")),
    ]
    return Package("".join(body), numbering=abstract(1, level(0, "bullet", "\uf0b7", font="Symbol")) + num(1, 1))


@sample
def resume():
    right = '<w:tabs><w:tab w:val="right" w:pos="9298"/></w:tabs>'
    line = '<w:pBdr><w:bottom w:val="single" w:sz="8" w:space="1" w:color="0A5A6B"/></w:pBdr>'
    leader = '<w:tabs><w:tab w:val="right" w:leader="dot" w:pos="9298"/></w:tabs>'
    body = [
        p(r("Hesper Sands", "b sz=44"), ppr='<w:jc w:val="center"/><w:spacing w:after="0"/>'),
        p("Lock Cottage, Marrowby\thesper@mill.example\t01000 555 010", ppr='<w:tabs><w:tab w:val="center" w:pos="4649"/><w:tab w:val="right" w:pos="9298"/></w:tabs>'),
        p(r("Work", "b caps sz=26"), ppr=line + '<w:spacing w:before="240" w:after="60"/>'),
        p(r("Millwright, Marrowby Tide Mill Trust", "b"), r("\t2019–2026"), ppr=right + '<w:spacing w:after="0"/>'),
        p("Rebuilt the wheel, paddle by paddle.", num=(1, 0)),
        p("Taught twelve apprentices.", num=(1, 0)),
        p(r("Boatbuilder, Estuary Yard", "b"), r("\t2011–2019"), ppr=right + '<w:spacing w:after="0"/>'),
        p("Clinker dinghies and one gig.", num=(1, 0)),
        p(r("Skills", "b caps sz=26"), ppr=line),
        p("Oak\tgreen and seasoned\nIron\tforged", ppr='<w:tabs><w:tab w:val="left" w:pos="2268"/></w:tabs>'),
        p(r("Papers", "b caps sz=26"), ppr=line),
        p("First aid\t2025", ppr=leader),
        p("Working at height\t2024", ppr=leader),
        p("Oak\t12.50\tkg", ppr='<w:tabs><w:tab w:val="decimal" w:pos="3000"/><w:tab w:val="left" w:pos="4000"/></w:tabs>'),
    ]
    return Package("".join(body), numbering=abstract(1, level(0, "bullet", "•", 360)) + num(1, 1))


@sample
def newsletter():
    columns = '<w:sectPr><w:type w:val="continuous"/><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:left="1304" w:right="1304"/><w:cols w:num="2" w:space="480"/></w:sectPr>'
    single = '<w:sectPr><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:left="1304" w:right="1304"/><w:cols w:space="720"/></w:sectPr>'
    cap = p(r("T", "sz=88"), ppr='<w:keepNext/><w:framePr w:dropCap="drop" w:lines="3" w:wrap="around" w:vAnchor="text" w:hAnchor="text"/>')
    body = [
        p("The Tide Table", style="Title"),
        p("News of the mill, summer 2026"),
        p(ppr=single),
        cap,
        p("he wheel turned on the first of May for the first time in a hundred and one years. Nobody who stood on the bridge will forget the sound of it.", style=None),
        p("Everybody is asked to bring oil.", text_box(p(r("Open days", "b")), p("Saturdays at high water."), p("Free for children.", num=(1, 0)))),
        p("Flour", style="Heading1"),
        p("The stones are dressed. Bread will follow, says Ada Weir, when the wind allows."),
        p(raw('<w:br w:type="column"/>')),
        p("Thanks", style="Heading1"),
        p("To all who carried slates."),
        p(raw('<w:pict><v:shape style="width:120pt;height:40pt" fillcolor="#eaf3f5"><v:textbox><w:txbxContent>' + p("From the older box: mind the beam.") + "</w:txbxContent></v:textbox></v:shape></w:pict>"), r("After the columns."), ppr=columns),
        p("Printed at Marrowby."),
    ]
    found = Package("".join(body), numbering=abstract(1, level(0, "bullet", "–")) + num(1, 1), page='<w:sectPr><w:type w:val="continuous"/><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:left="1304" w:right="1304"/></w:sectPr>')
    return found


WHO = 'w:id="7" w:author="Ada Weir" w:date="2026-05-02T09:00:00Z"'
TOM = 'w:id="8" w:author="Tom Leat" w:date="2026-05-03T10:30:00Z"'


@sample
def reviewed_manuscript():
    mark = lambda kind: f"<w:rPr><w:{kind} {WHO}/></w:rPr>"
    deleted = lambda text: f'<w:del {WHO}><w:r><w:delText xml:space="preserve">{text}</w:delText></w:r></w:del>'
    inserted = lambda text, who=WHO: f"<w:ins {who}>{r(text)}</w:ins>"
    begin = lambda n: f'<w:commentRangeStart w:id="{n}"/>'
    end = lambda n: f'<w:commentRangeEnd w:id="{n}"/><w:r><w:commentReference w:id="{n}"/></w:r>'
    body = [
        p("The miller’s tale", style="Heading1"),
        p("The wheel ", deleted("stops"), inserted("turns"), r(" twice a day, "), begin(1), r("whatever the wind says"), end(1), end(2), r(".")),
        p("She ", inserted("never ", TOM), r("slept."), r(" The bell did."), raw(t(" Loudly."), "b", f"<w:rPrChange {WHO}><w:rPr><w:i/></w:rPr></w:rPrChange>")),
        p("These two lines were one", ppr=mark("ins")),
        p(" until Tom parted them."),
        p("These two were parted", ppr=mark("del")),
        p(" and are one."),
        p(inserted("A whole new paragraph."), ppr=mark("ins")),
        p("Centred since May.", ppr=f'<w:jc w:val="center"/><w:pPrChange {WHO}><w:pPr><w:jc w:val="left"/></w:pPr></w:pPrChange>'),
        p(f'<w:moveFromRangeStart w:id="20" {WHO[9:]} w:name="m1"/><w:moveFrom {WHO}>{r("The cat went first.")}</w:moveFrom><w:moveFromRangeEnd w:id="20"/>'),
        p("The dog went second."),
        p(f'<w:moveToRangeStart w:id="21" {WHO[9:]} w:name="m1"/><w:moveTo {WHO}>{r("The cat went first.")}</w:moveTo><w:moveToRangeEnd w:id="21"/>'),
        table(
            row("Gate", "State"),
            row("Seaward", "open"),
            row("Landward", "shut", trpr=f"<w:ins {WHO}/>"),
            row("Old", "gone", trpr=f"<w:del {TOM}/>"),
            widths=(2000, 2000), tblpr='<w:tblStyle w:val="TableGrid"/>',
        ),
        p("A point", raw('<w:commentReference w:id="3"/>'), " without a range."),
    ]
    found = Package("".join(body))
    comment = lambda number, who, para, *text: (
        f'<w:comment w:id="{number}" w:author="{who}" w:initials="X" w:date="2026-05-02T09:00:00Z">'
        + "".join(f'<w:p w14:paraId="{para}"><w:r><w:annotationRef/></w:r>{r(words)}</w:p>' for words in text) + "</w:comment>"
    )
    found.add("comments", comment(1, "Ada Weir", "11111111", "Is that so?") + comment(2, "Tom Leat", "22222222", "It is.") + comment(3, "Hesper Sands", "33333333", "Say more."))
    found.parts["word/commentsExtended.xml"] = (
        f'<w15:commentsEx {DECLARED}><w15:commentEx w15:paraId="11111111" w15:done="1"/>'
        '<w15:commentEx w15:paraId="22222222" w15:paraIdParent="11111111" w15:done="0"/></w15:commentsEx>'
    )
    found.relate("http://schemas.microsoft.com/office/2011/relationships/commentsExtended", "commentsExtended.xml")
    return found


def mr(text, more=""):
    return f'<m:r>{more}<m:t xml:space="preserve">{escape(text)}</m:t></m:r>'


def math(*inside):
    return f"<m:oMath>{''.join(inside)}</m:oMath>"


def e(*inside):
    return f"<m:e>{''.join(inside)}</m:e>"


@sample
def mathematics_handout():
    fraction = lambda a, b, kind="": f'<m:f>{f"<m:fPr><m:type m:val=%s/></m:fPr>" % quoteattr(kind) if kind else ""}<m:num>{a}</m:num><m:den>{b}</m:den></m:f>'
    power = lambda a, b: f"<m:sSup>{e(a)}<m:sup>{b}</m:sup></m:sSup>"
    below = lambda a, b: f"<m:sSub>{e(a)}<m:sub>{b}</m:sub></m:sSub>"
    root = lambda a, degree="": f'<m:rad><m:radPr><m:degHide m:val="{0 if degree else 1}"/></m:radPr><m:deg>{degree}</m:deg>{e(a)}</m:rad>'
    sum_of = lambda sign, lower, upper, a: f'<m:nary><m:naryPr><m:chr m:val="{sign}"/><m:limLoc m:val="undOvr"/></m:naryPr><m:sub>{lower}</m:sub><m:sup>{upper}</m:sup>{e(a)}</m:nary>'
    within = lambda a, open="(", close=")": f'<m:d><m:dPr><m:begChr m:val="{open}"/><m:endChr m:val="{close}"/></m:dPr>{e(a)}</m:d>'
    matrix = "<m:m>" + "".join("<m:mr>" + "".join(e(mr(x)) for x in line) + "</m:mr>" for line in (("1", "0"), ("0", "1"))) + "</m:m>"
    body = [
        p("Power of a tide wheel", style="Heading1"),
        p("Water of density ", math(mr("ρ")), r(" falls by "), math(mr("h")), r(" metres:")),
        p("<m:oMathPara>" + math(mr("P"), mr("="), mr("ρgQh"), fraction(mr("1"), power(mr("η"), mr("2")))) + "</m:oMathPara>"),
        p("<m:oMathPara><m:oMathParaPr><m:jc m:val=\"left\"/></m:oMathParaPr>" + math(mr("x"), mr("="), fraction(mr("−b±") + root(power(mr("b"), mr("2")) + mr("−4ac")), mr("2a"))) + "</m:oMathPara>"),
        p("<m:oMathPara>" + math(sum_of("∑", mr("n=1"), mr("∞"), fraction(mr("1"), power(mr("n"), mr("2")))), mr("="), fraction(power(mr("π"), mr("2")), mr("6"))) + "</m:oMathPara>"),
        p("<m:oMathPara>" + math(sum_of("∫", mr("0"), mr("T"), mr("h(t)")), mr("dt")) + "</m:oMathPara>"),
        p("Roots ", math(root(mr("x"), mr("3"))), r(" and matrices "), math(within(matrix, "[", "]")), r(" and "), math(below(mr("h"), mr("max"))), r(".")),
        p(math(f'<m:func><m:fName>{mr("sin", "<m:rPr><m:sty m:val=%s/></m:rPr>" % quoteattr("p"))}</m:fName>{e(mr("θ"))}</m:func>'), r(" has a limit "),
          math(f'<m:func><m:fName><m:limLow>{e(mr("lim"))}<m:lim>{mr("t→0")}</m:lim></m:limLow></m:fName>{e(mr("h"))}</m:func>')),
        p(math(f'<m:acc><m:accPr><m:chr m:val="̂"/></m:accPr>{e(mr("v"))}</m:acc>', mr("+"), f'<m:bar><m:barPr><m:pos m:val="top"/></m:barPr>{e(mr("z"))}</m:bar>', mr("+"),
               f'<m:sSubSup>{e(mr("a"))}<m:sub>{mr("i")}</m:sub><m:sup>{mr("2")}</m:sup></m:sSubSup>', f'<m:sPre><m:sub>{mr("1")}</m:sub><m:sup>{mr("2")}</m:sup>{e(mr("X"))}</m:sPre>',
               f'<m:groupChr><m:groupChrPr><m:chr m:val="⏟"/></m:groupChrPr>{e(mr("a+b"))}</m:groupChr>', f'<m:limUpp>{e(mr("="))}<m:lim>{mr("def")}</m:lim></m:limUpp>')),
        p("<m:oMathPara>" + math(mr("f(x)="), within(f'<m:eqArr>{e(mr("x, &x≥0"))}{e(mr("−x, &x<0"))}</m:eqArr>', "{", "")) + "</m:oMathPara>"),
        p(math(f'<m:borderBox>{e(mr("E=mc²"))}</m:borderBox>', f'<m:box>{e(mr("≔"))}</m:box>', f'<m:phant>{e(mr("0"))}</m:phant>', fraction(mr("a"), mr("b"), "skw"), fraction(mr("n"), mr("k"), "noBar"))),
        "<m:oMathPara>" + math(mr("between=paragraphs")) + "</m:oMathPara>",
    ]
    return Package("".join(body))


@sample
def arabic_and_english():
    rtl = "<w:bidi/>"
    ar = lambda text, wanted="": raw(t(text), wanted + " rtl" if wanted else "rtl", '<w:lang w:bidi="ar-EG"/>')
    body = [
        p(ar("طاحونة المد والجزر"), style="Heading1", ppr=rtl),
        p(ar("تدور العجلة مرتين في اليوم، "), r("twice a day"), ar(" كما يقول أهل القرية.")),
        p(ar("تدور العجلة مرتين في اليوم."), ppr=rtl),
        p(ar("النص "), raw(t("الغامق"), "bCs rtl"), ar(" مهم."), ppr=rtl),
        p("The same in English, with ", ar("كلمة"), r(" inside."), ppr='<w:jc w:val="left"/>'),
        p('<w:bdo w:val="rtl">' + r("abc") + "</w:bdo>", '<w:dir w:val="rtl">' + r(" 123 ") + "</w:dir>"),
        p(ar("أولا"), num=(1, 0), ppr=""),
        p(ar("ثانيا"), num=(1, 0), ppr=""),
        table(row(cell(p(ar("الأحد"), ppr=rtl)), cell(p(ar("مغلق"), ppr=rtl))), row(cell(p(ar("السبت"), ppr=rtl)), cell(p(ar("مفتوح"), ppr=rtl))), widths=(2400, 2400), tblpr='<w:tblStyle w:val="TableGrid"/><w:bidiVisual/>'),
        p(raw(t("Le moulin tourne."), "", '<w:lang w:val="fr-FR"/>')),
    ]
    return Package("".join(body), numbering=abstract(1, level(0, "arabicAbjad", "%1.")) + num(1, 1))


@sample
def japanese_with_ruby():
    ja = lambda text, more="": raw(t(text), "", '<w:rFonts w:ascii="MS Mincho" w:eastAsia="MS Mincho" w:hint="eastAsia"/>' + more)
    ruby = lambda base, reading: (
        '<w:r><w:ruby><w:rubyPr><w:rubyAlign w:val="distributeSpace"/><w:hps w:val="10"/><w:hpsRaise w:val="18"/><w:hpsBaseText w:val="21"/><w:lid w:val="ja-JP"/></w:rubyPr>'
        f'<w:rt>{raw(t(reading), "sz=10")}</w:rt><w:rubyBase>{r(base)}</w:rubyBase></w:ruby></w:r>'
    )
    body = [
        p(ja("潮汐水車"), style="Heading1"),
        p(ruby("水車", "すいしゃ"), ja("は一日に二回回ります。"), ruby("潮", "しお"), ja("が満ちると門が閉まります。")),
        p(ja("傍点", '<w:em w:val="dot"/>'), ja("と縦中横"), raw(t("12"), "", '<w:eastAsianLayout w:id="1" w:vert="1"/>'), ja("月。")),
        p(ja("最初の項目"), num=(1, 0)),
        p(ja("次の項目"), num=(1, 0)),
        p(ja("番号"), num=(2, 0)),
        p("English in between."),
        p(ja("字下げした段落です。"), ppr='<w:ind w:firstLineChars="100" w:firstLine="210"/><w:kinsoku/><w:overflowPunct/><w:autoSpaceDE/>'),
    ]
    return Package("".join(body), numbering=abstract(1, level(0, "japaneseCounting", "%1、")) + abstract(2, level(0, "decimalEnclosedCircle", "%1")) + num(1, 1) + num(2, 2))


@sample
def fields():
    contents = "<w:sdt><w:sdtPr><w:docPartObj><w:docPartGallery w:val=\"Table of Contents\"/><w:docPartUnique/></w:docPartObj></w:sdtPr><w:sdtContent>" + p("Contents", style="TOC1") + p(link("#_Toc1", "The mill\t1"), style="TOC1") + "</w:sdtContent></w:sdt>"
    mark = lambda kind: f'<w:r><w:fldChar w:fldCharType="{kind}"/></w:r>'
    instruction = lambda text: f'<w:r><w:instrText xml:space="preserve">{escape(text)}</w:instrText></w:r>'
    nested = mark("begin") + instruction(" IF ") + mark("begin") + instruction(" DATE ") + mark("separate") + r("inner") + mark("end") + instruction(' = "x" "yes" "no" ') + mark("separate") + r("no") + mark("end")
    body = [
        contents,
        p(bookmark("_Toc1", r("The mill")), style="Heading1"),
        p("See ", field(r"REF _Ref1 \h", "Figure 1"), r(" on page "), field(r"PAGEREF _Ref1 \h", "3"), r(" and note "), field(r"NOTEREF _Ref2 \h", "1"), r(".")),
        p(picture("rPic", "The wheel")),
        p(bookmark("_Ref1", r("Figure ") + field(r"SEQ Figure \* ARABIC", "1")), r(": the wheel"), style="Caption"),
        p(r("Table "), field(r"SEQ Table \* ARABIC", "1"), r(". Tides"), style="Caption"),
        table(row("Day", "Height"), row("Monday", "4.1"), widths=(2000, 2000), tblpr='<w:tblStyle w:val="TableGrid"/>'),
        table(row("Total", field(r"=SUM(ABOVE) \# 0.0", "8.4")), widths=(2000, 2000)),
        p(r("Table "), field(r"SEQ Table \* ARABIC", "2"), r(". Sums"), style="Caption"),
        p("Today is ", field(r'DATE \@ "d MMMM yyyy"', "6 June 2026"), r(", in "), field('STYLEREF "heading 1"', "The mill"), r(".")),
        p(nested, r(" came out.")),
        p(field('HYPERLINK "https://mill.example/tides" \\o "Times"', r("the ") + r("table", "b")), r(" of tides; "), link("rOut", "the office"), r("; "), link("#_Toc1", "up")),
        p('<w:fldSimple w:instr=" AUTHOR ">' + r("Ada Weir") + "</w:fldSimple>", r(" wrote "), '<w:fldSimple w:instr=" FILENAME ">' + r("fields.docx") + "</w:fldSimple>"),
        p("Indexed", mark("begin") + instruction(' XE "wheel" ') + mark("end"), r(" word.")),
        p(mark("begin") + instruction(r' INDEX \c "2" ') + mark("separate") + r("wheel, 3")),
        p("tide, 4", mark("end")),
        p(mark("begin") + instruction(' SYMBOL 252 \\f "Wingdings" ') + mark("end"), r(" done; "), mark("begin") + instruction(r" MACROBUTTON NoMacro press here ") + mark("end")),
        p(mark("begin") + instruction(r" EQ \f(1;2) ") + mark("end"), r(" as a field.")),
        p(mark("begin") + instruction(' HYPERLINK "https://mill.example/long" ') + mark("separate") + r("a link over")),
        p("two paragraphs", mark("end"), r(" ends.")),
        p(mark("begin") + instruction(r' TOC \h \z \c "Figure" ') + mark("separate") + link("#_Ref1", "Figure 1: the wheel\t2") + mark("end")),
        p(bookmark("_Ref2", raw('<w:footnoteReference w:id="2"/>'))),
    ]
    found = Package("".join(body))
    found.add_file("image", "word/media/wheel.png", png(60, 40, (10, 90, 107)), "rPic")
    found.relate("hyperlink", "https://mill.example/office?a=1&b=2", "rOut", external=True)
    found.add("footnotes", '<w:footnote w:id="2">' + p(raw("<w:footnoteRef/>"), r(" At the outer piles.")) + "</w:footnote>")
    return found


@sample
def lists():
    forms = ["decimal", "lowerLetter", "upperLetter", "lowerRoman", "upperRoman", "decimalZero", "ordinal", "cardinalText", "ordinalText", "hex", "chicago", "decimalEnclosedCircle", "russianLower", "hebrew1", "thaiNumbers", "numberInDash", "none"]
    numbering = '<w:numPicBullet w:numPicBulletId="0"><w:pict><v:shape style="width:9pt;height:9pt"><v:imagedata r:id="rBullet" o:title=""/></v:shape></w:pict></w:numPicBullet>'
    numbering += "".join(abstract(n, level(0, form, "%1.", start=3), level(1, "bullet", "o", font="Courier New")) for n, form in enumerate(forms, 1))
    numbering += abstract(50, level(0, "decimal", "%1)"), level(1, "decimal", "%1.%2"), level(2, "lowerLetter", "(%3)"))
    numbering += abstract(51, level(0, "bullet", "\uf0a7", font="Wingdings"), level(1, "bullet", "–"), level(2, "bullet", "\uf0fc", font="Wingdings"))
    numbering += abstract(52, level(0, "bullet", "", more='<w:lvlPicBulletId w:val="0"/>', font="Symbol"))
    numbering += abstract(53, more='<w:numStyleLink w:val="MillList"/>') + abstract(54, level(0, "upperLetter", "%1."), more='<w:styleLink w:val="MillList"/>')
    numbering += "".join(num(n, n) for n in range(1, len(forms) + 1)) + num(50, 50) + num(51, 51) + num(52, 52) + num(53, 53)
    numbering += num(60, 50, '<w:lvlOverride w:ilvl="0"><w:startOverride w:val="1"/></w:lvlOverride>')
    numbering += num(61, 50, '<w:lvlOverride w:ilvl="1">' + level(1, "upperRoman", "%2.") + "</w:lvlOverride>")
    body = [p("Lists", style="Heading1")]
    for n, form in enumerate(forms, 1):
        body += [p(f"{form} first", num=(n, 0)), p(f"{form} inner", num=(n, 1)), p(f"{form} second", num=(n, 0)), p("between")]
    body += [
        p("one", num=(50, 0)), p("one one", num=(50, 1)), p("one two", num=(50, 1)), p("deep a", num=(50, 2)), p("deep b", num=(50, 2)),
        p("two", num=(50, 0)), p("two one", num=(50, 1)), p("interrupted"), p("two two", num=(50, 1)), p("three", num=(50, 0)),
        p("new start", num=(60, 0)), p("goes on", num=(60, 0)), p("override", num=(61, 1)),
        p("square", num=(51, 0)), p("dash", num=(51, 1)), p("tick", num=(51, 2)), p("square again", style="ListParagraph", num=(51, 0)),
        p("a second paragraph of the item", style="ListParagraph"),
        p("picture", num=(52, 0)), p("by style", num=(53, 0)), p("by style too", num=(53, 0)),
        p("nothing there", num=(99, 0)), p(num=(1, 0)), p("skips levels", num=(50, 2)), p("level nine", num=(50, 8)),
    ]
    styles = STYLES + style("numbering", "MillList", "Mill List", ppr='<w:numPr><w:numId w:val="53"/></w:numPr>')
    found = Package("".join(body), styles, numbering)
    return found


@sample
def run_properties():
    names = ["b", "i", "u=single", "u=double", "u=wave", "u=dotted", "u=dash", "u=none", "strike", "dstrike", "caps", "smallCaps", "outline", "shadow", "emboss", "imprint", "highlight=yellow", "highlight=darkCyan", "vertAlign=superscript", "vertAlign=subscript", "position=6", "spacing=40", "w=150", "kern=16", "color=C00000", "sz=36", "em=dot", "effect=blinkBackground", "noProof", "snapToGrid", "webHidden"]
    body = [p("Runs", style="Heading1")] + [p("a ", r(f"word with {name}", name), " behind") for name in names]
    special = "<w:shd w:val=\"pct20\" w:color=\"auto\" w:fill=\"FFE699\"/>", '<w:bdr w:val="single" w:sz="4" w:space="1" w:color="0A5A6B"/>', '<w:rFonts w:ascii="Consolas" w:hAnsi="Consolas"/>', '<w:color w:themeColor="accent2" w:themeTint="99"/>', '<w:fitText w:val="1200" w:id="1"/>', '<w14:glow w14:rad="63500"><w14:srgbClr w14:val="0A5A6B"/></w14:glow>'
    body += [p("a ", raw(t("special word"), "", more), r(" behind")) for more in special]
    body += [
        p(r("shown "), r("never seen", "vanish"), r(" again")),
        p(raw("<w:t>non</w:t><w:noBreakHyphen/><w:t>breaking</w:t><w:softHyphen/><w:t>soft</w:t><w:tab/><w:t>tab</w:t><w:ptab w:relativeTo=\"margin\" w:alignment=\"right\" w:leader=\"none\"/><w:t>ptab</w:t><w:cr/><w:t>cr</w:t><w:br w:type=\"textWrapping\" w:clear=\"all\"/><w:t>br</w:t>")),
        p(r("bold in a bold style is not", "rStyle=Strong"), r(" bold and not bold ", "b=0"), style="AllBold"),
        p(r("twice bold is bold", "rStyle=Strong b"), style="Normal"),
        p("<w:r><w:t>  trimmed  </w:t></w:r>", r("|"), "<w:r><w:t xml:space=\"preserve\"> kept </w:t></w:r>", r("|")),
    ]
    return Package("".join(body), STYLES + style("paragraph", "AllBold", "All Bold", "Normal", rpr="<w:b/>"))


@sample
def tables():
    span = lambda n: f'<w:gridSpan w:val="{n}"/>'
    look = '<w:tblLook w:val="04A0" w:firstRow="1" w:lastRow="1" w:firstColumn="1" w:lastColumn="0" w:noHBand="0" w:noVBand="1"/>'
    banded = table(
        row("Month", "Spring", "Neap", trpr="<w:tblHeader/>"), row("April", "4.1", "2.9"), row("May", "4.3", "3.0"), row("June", "4.2", "2.8"), row("Mean", "4.2", "2.9"),
        widths=(2400, 1800, 1800), tblpr='<w:tblStyle w:val="Banded"/><w:tblW w:w="3500" w:type="pct"/><w:jc w:val="center"/><w:tblCaption w:val="Heights"/><w:tblDescription w:val="Heights of tides by month"/>' + look,
    )
    merged = table(
        row(cell("A", tcpr=span(2)), cell("B", tcpr='<w:vMerge w:val="restart"/>')),
        row(cell("C", tcpr='<w:vMerge w:val="restart"/>'), "D", cell(tcpr="<w:vMerge/>")),
        row(cell(tcpr="<w:vMerge/>"), "E", "F"),
        row(cell("G", tcpr='<w:hMerge w:val="restart"/>'), cell(tcpr="<w:hMerge/>"), "H"),
        row("I", "J", trpr='<w:gridBefore w:val="1"/><w:wBefore w:w="2000" w:type="dxa"/>'),
        row("K", trpr='<w:gridAfter w:val="2"/>'),
        widths=(2000, 2000, 2000), tblpr='<w:tblStyle w:val="TableGrid"/>',
    )
    nested = table(row(cell(p("outer"), table(row("inner one", "inner two"), widths=(900, 900), tblpr='<w:tblStyle w:val="TableGrid"/>'), p()), "beside"), widths=(4000, 2000), tblpr='<w:tblStyle w:val="TableGrid"/>')
    side = lambda name, value: f'<w:{name} w:val="{value}" w:sz="12" w:space="0" w:color="7D4A36"/>'
    bordered = table(
        row(cell("double", tcpr="<w:tcBorders>" + side("top", "double") + side("bottom", "double") + "</w:tcBorders>"), cell("dashed", tcpr="<w:tcBorders>" + side("left", "dashed") + side("right", "dotted") + '</w:tcBorders><w:shd w:val="clear" w:fill="EAF3F5"/><w:vAlign w:val="bottom"/><w:noWrap/>'), trpr='<w:cantSplit/><w:trHeight w:val="800"/>'),
        row(cell("none", tcpr='<w:tcBorders><w:top w:val="nil"/></w:tcBorders><w:tcFitText/>'), cell(p("listed", num=(1, 0)), p("twice", num=(1, 0)))),
        widths=(2500, 2500), tblpr='<w:tblpPr w:leftFromText="180" w:rightFromText="180" w:vertAnchor="text" w:tblpX="100" w:tblpY="1"/><w:tblOverlap w:val="never"/><w:tblCellSpacing w:w="30" w:type="dxa"/><w:tblLayout w:type="fixed"/>',
    )
    control = '<w:sdt><w:sdtPr/><w:sdtContent>' + row("in a control", "too") + "</w:sdtContent></w:sdt>"
    body = [p("Tables", style="Heading1"), banded, p("between"), merged, p("between"), nested, p("between"), bordered, p("between"), table(control, widths=(2000, 2000)), p("end")]
    return Package("".join(body), numbering=abstract(1, level(0, "bullet", "•")) + num(1, 1))


@sample
def notes():
    note = lambda kind, number, *content: f'<w:{kind} w:id="{number}">' + "".join(content) + f"</w:{kind}>"
    ref = lambda kind, number: raw(f'<w:{kind}Reference w:id="{number}"/>', "vertAlign=superscript")
    mark = raw("<w:footnoteRef/>", "vertAlign=superscript")
    body = [
        p("Notes", style="Heading1"),
        p("First", ref("footnote", 1), r(", second"), ref("footnote", 2), r(", at the end"), ref("endnote", 1), r(".")),
        table(row(cell(p("In a cell", ref("footnote", 3))), "x"), widths=(2000, 2000)),
        p("Custom", raw('<w:footnoteReference w:customMarkFollows="1" w:id="4"/><w:t>*</w:t>')),
        p("Missing", ref("footnote", 9)),
    ]
    found = Package("".join(body))
    separator = '<w:footnote w:type="separator" w:id="-1"><w:p><w:r><w:separator/></w:r></w:p></w:footnote><w:footnote w:type="continuationSeparator" w:id="0"><w:p><w:r><w:continuationSeparator/></w:r></w:p></w:footnote>'
    found.add("footnotes", separator + note("footnote", 1, p(mark, r(" A simple note."))) + note("footnote", 2, p(mark, r(" With a list:")), p("one", num=(1, 0)), p("two", num=(1, 0)), p("and more.")) + note("footnote", 3, p(mark, r(" From a cell with "), link("rN", "a link"))) + note("footnote", 4, p(r("* Starred."))))
    found.parts["word/_rels/footnotes.xml.rels"] = f'<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rN" Type="{R}/hyperlink" Target="https://mill.example/notes" TargetMode="External"/></Relationships>'
    found.add("endnotes", note("endnote", 1, p(raw("<w:endnoteRef/>"), r(" The last word."))))
    found.add("numbering", abstract(1, level(0, "decimal", "%1.")) + num(1, 1))
    return found


@sample
def pictures():
    svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40" width="40" height="40"><circle cx="20" cy="20" r="18" fill="#0a5a6b"/></svg>'
    decorative = '<a:extLst><a:ext uri="{C183D7F6-B498-43B3-948B-1728B52AA6E4}"><adec:decorative val="1"/></a:ext></a:extLst>'
    with_svg = '<a:extLst><a:ext uri="{96DAC541-7B7A-43D3-8B79-37D633B846F1}"><asvg:svgBlip r:embed="rSvg"/></a:ext></a:extLst>'
    body = [
        p("Pictures", style="Heading1"),
        p(picture("rPng", "A wheel in one line")),
        p("Anchored ", picture("rPng", "A wheel beside the text", anchor=True), r("beside this text.")),
        p(picture("rPng", "Cropped to its middle", 952500, 635000, crop='<a:srcRect l="25000" t="25000" r="25000" b="25000"/>')),
        p(picture("rPng", more=decorative)),
        p(picture("rPng", "The wheel as drawn", extension=with_svg)),
        p(picture("rPng", "Linked", more='<a:hlinkClick r:id="rLink"/>')),
        p(raw('<w:pict><v:shape style="width:90pt;height:60pt" alt="An older wheel"><v:imagedata r:id="rPng" o:title="wheel"/></v:shape></w:pict>')),
        p(picture("rEmf", "A metafile")),
        p(picture("rGone", "A lost picture")),
        p(raw('<w:drawing><wp:inline><wp:extent cx="952500" cy="952500"/><wp:docPr id="2" name="Group" descr="Two wheels"/><a:graphic><a:graphicData uri="x"><wpg:wgp><wpg:cNvGrpSpPr/><wpg:grpSpPr/><pic:pic><pic:nvPicPr><pic:cNvPr id="0" name="x"/></pic:nvPicPr><pic:blipFill><a:blip r:embed="rPng"/></pic:blipFill><pic:spPr/></pic:pic><pic:pic><pic:nvPicPr><pic:cNvPr id="0" name="y"/></pic:nvPicPr><pic:blipFill><a:blip r:embed="rTwo"/></pic:blipFill><pic:spPr/></pic:pic></wpg:wgp></a:graphicData></a:graphic></wp:inline></w:drawing>')),
        p(raw('<w:pict><v:rect style="width:0;height:1.5pt" o:hralign="center" o:hrstd="t" o:hr="t" fillcolor="#a0a0a0" stroked="f"/></w:pict>')),
        p(raw('<w:pict><v:shape type="#_x0000_t136" style="width:200pt;height:50pt"><v:textpath string="DRAFT OF MAY" style="font-family:Georgia"/></v:shape></w:pict>')),
        p(raw('<w:pict><v:shape><v:imagedata r:id="rPng" o:title=""/><o:signatureline v:ext="edit" id="{1}" o:suggestedsigner="Ada Weir" o:suggestedsigner2="Chair of the Trust" issignatureline="t"/></v:shape></w:pict>')),
    ]
    found = Package("".join(body))
    found.add_file("image", "word/media/wheel.png", png(120, 80, (10, 90, 107)), "rPng")
    found.add_file("image", "word/media/two.png", png(60, 60, (125, 74, 54)), "rTwo")
    found.add_file("image", "word/media/wheel.svg", svg, "rSvg")
    found.add_file("image", "word/media/old.emf", metafile(), "rEmf")
    found.relate("image", "media/nowhere.png", "rGone")
    found.relate("hyperlink", "https://mill.example/wheel", "rLink", external=True)
    return found


def metafile():
    """A metafile that draws nothing: its header and its end (MS-EMF 2.3.4.2, 2.3.4.1)."""
    end = struct.pack("<IIIII", 14, 20, 0, 16, 20)
    size = 88 + len(end)
    header = struct.pack("<II4i4i", 1, 88, 0, 0, 99, 99, 0, 0, 2645, 2645)
    header += struct.pack("<4sIIIHHIII", b" EMF", 0x10000, size, 2, 1, 0, 0, 0, 0)
    return header + struct.pack("<iiii", 1280, 800, 339, 212) + end


def series(at, name, categories, values, numeric=False):
    points = lambda items: f'<c:ptCount val="{len(items)}"/>' + "".join(f'<c:pt idx="{i}"><c:v>{v}</c:v></c:pt>' for i, v in enumerate(items))
    cat, val = ("xVal", "yVal") if numeric else ("cat", "val")
    kind = "numRef" if numeric else "strRef"
    cache = "numCache" if numeric else "strCache"
    return (
        f'<c:ser><c:idx val="{at}"/><c:order val="{at}"/><c:tx><c:strRef><c:f>Sheet1!$B$1</c:f><c:strCache>{points([name])}</c:strCache></c:strRef></c:tx>'
        f"<c:{cat}><c:{kind}><c:f>Sheet1!$A$2</c:f><c:{cache}>{points(categories)}</c:{cache}></c:{kind}></c:{cat}>"
        f"<c:{val}><c:numRef><c:f>Sheet1!$B$2</c:f><c:numCache><c:formatCode>General</c:formatCode>{points(values)}</c:numCache></c:numRef></c:{val}></c:ser>"
    )


def chart_part(kind, title, *all_series, more="", axes=True):
    rich = f'<c:title><c:tx><c:rich><a:bodyPr/><a:p><a:r><a:t>{title}</a:t></a:r></a:p></c:rich></c:tx></c:title>'
    axis = '<c:catAx><c:axId val="1"/><c:title><c:tx><c:rich><a:p><a:r><a:t>Month</a:t></a:r></a:p></c:rich></c:tx></c:title></c:catAx><c:valAx><c:axId val="2"/><c:title><c:tx><c:rich><a:p><a:r><a:t>Metres</a:t></a:r></a:p></c:rich></c:tx></c:title></c:valAx>' if axes else ""
    return xml("c:chartSpace", f'<c:chart>{rich}<c:plotArea><c:layout/><c:{kind}>{more}{"".join(all_series)}</c:{kind}>{axis}</c:plotArea><c:legend/></c:chart>')


@sample
def charts():
    months = ["April", "May", "June", "July"]
    drawing = lambda relation, alt="": f'<w:r><w:drawing><wp:inline><wp:extent cx="4572000" cy="2743200"/><wp:docPr id="3" name="Chart" {f"descr={quoteattr(alt)}" if alt else ""}/><a:graphic><a:graphicData uri="{NAMESPACES["c"]}"><c:chart r:id="{relation}"/></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>'
    kinds = {
        "rBar": chart_part("barChart", "Height of tides", series(0, "Spring", months, [4.1, 4.3, 4.2, 4.0]), series(1, "Neap", months, [2.9, 3.0, 2.8, 2.7]), more='<c:barDir val="col"/><c:grouping val="clustered"/>'),
        "rStack": chart_part("barChart", "Visitors", series(0, "Adults", months, [310, 420, 515, 640]), series(1, "Children", months, [120, 200, 260, 410]), more='<c:barDir val="bar"/><c:grouping val="stacked"/>'),
        "rLine": chart_part("lineChart", "Flour milled", series(0, "Kilograms", months, [80, 120, -20, 160])),
        "rPie": chart_part("pieChart", "Income", series(0, "Pounds", ["Admissions", "Flour", "Gifts"], [44915, 11046, 5300]), axes=False),
        "rScatter": chart_part("scatterChart", "Head and power", series(0, "Runs", [1.0, 1.5, 2.0, 3.0], [4.0, 7.5, 9.0, 17.0], numeric=True)),
        "rArea": chart_part("areaChart", "Pond", series(0, "Level", months, [1, 3, 2, 4])),
        "rRadar": chart_part("radarChart", "Winds", series(0, "Days", ["N", "E", "S", "W"], [3, 5, 8, 12])),
    }
    body = [p("Charts", style="Heading1")]
    for at, relation in enumerate(kinds):
        body += [p(drawing(relation, "Spring and neap tides by month" if at == 0 else "")), p(f"After chart {at + 1}.")]
    found = Package("".join(body))
    for at, (relation, text) in enumerate(kinds.items(), 1):
        found.add_file("chart", f"word/charts/chart{at}.xml", text, relation)
    return found


@sample
def diagram():
    point = lambda number, text, kind="node": f'<dgm:pt modelId="{number}" type="{kind}"><dgm:prSet/><dgm:t><a:bodyPr/><a:p><a:r><a:t>{text}</a:t></a:r></a:p></dgm:t></dgm:pt>'
    joined = lambda number, source, target, at: f'<dgm:cxn modelId="{number}" srcId="{source}" destId="{target}" srcOrd="{at}" destOrd="0"/>'
    data = xml("dgm:dataModel", "<dgm:ptLst>" + point(1, "", "doc") + point(2, "Trust") + point(3, "Wheel group") + point(4, "Door group") + point(5, "Millwrights") + "</dgm:ptLst><dgm:cxnLst>" + joined(10, 1, 2, 0) + joined(11, 2, 3, 0) + joined(12, 2, 4, 1) + joined(13, 3, 5, 0) + "</dgm:cxnLst>")
    drawing = f'<w:r><w:drawing><wp:inline><wp:extent cx="4572000" cy="2743200"/><wp:docPr id="3" name="Diagram"/><a:graphic><a:graphicData uri="{NAMESPACES["dgm"]}"><dgm:relIds r:dm="rData" r:lo="rLayout" r:qs="rStyle" r:cs="rColors"/></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>'
    found = Package("".join(HEAD) + p(drawing) + p("After the diagram."))
    found.add_file("diagramData", "word/diagrams/data1.xml", data, "rData")
    return found


@sample
def sections():
    first = '<w:headerReference w:type="first" r:id="rFirst"/><w:headerReference w:type="default" r:id="rHead"/><w:footerReference w:type="default" r:id="rFoot"/><w:footerReference w:type="first" r:id="rFootFirst"/>'
    section = lambda inside: f'<w:sectPr>{inside}<w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:left="1304" w:right="1304"/></w:sectPr>'
    body = [
        p("Sections", style="Heading1"), p("The first section."), p("Ends here.", ppr=section(first + "<w:titlePg/>")),
        p(raw('<w:br w:type="page"/>'), r("A new page.")), p("Breaks inside", raw('<w:br w:type="page"/>'), r(" a line.")), p("Before a page", ppr="<w:pageBreakBefore/>"),
        p("Landscape", ppr='<w:sectPr><w:type w:val="oddPage"/><w:pgSz w:w="16838" w:h="11906" w:orient="landscape"/><w:pgMar w:left="1304" w:right="1304"/><w:lnNumType w:countBy="5"/><w:pgBorders><w:top w:val="single"/></w:pgBorders><w:docGrid w:linePitch="360"/><w:vAlign w:val="center"/></w:sectPr>'),
        p("Three columns of text."), p("Column two."),
    ]
    found = Package("".join(body), page='<w:sectPr><w:type w:val="continuous"/><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:left="1304" w:right="1304"/><w:cols w:num="3" w:equalWidth="0"><w:col w:w="2000" w:space="300"/><w:col w:w="3000" w:space="300"/><w:col w:w="3000"/></w:cols></w:sectPr>')
    found.add("header", p("Marrowby Tide Mill Trust"), "word/header1.xml", "rFirst")
    found.add("header", p("Later pages"), "word/header2.xml", "rHead")
    found.add("footer", p("Page ", field("PAGE", "1"), r(" of "), field("NUMPAGES", "3")), "word/footer1.xml", "rFoot")
    found.add("footer", p("Registered at Marrowby"), "word/footer2.xml", "rFootFirst")
    return found


@sample
def strict_conformance():
    body = [*HEAD, p("A ", r("bold", "b"), r(" word, an indent in points."), ppr='<w:ind w:start="36pt"/>'), p(picture("rPic", "The wheel")), table(row("a", "b"), widths=(2000, 2000))]
    found = Package("".join(body))
    found.add_file("image", "word/media/wheel.png", png(60, 40, (10, 90, 107)), "rPic")
    found.strict = True
    return found


@sample
def macro_file():
    found = Package("".join(HEAD))
    found.main_type = "application/vnd.ms-word.document.macroEnabled.main+xml"
    return found


@sample
def template():
    found = Package("".join(HEAD))
    found.main_type = "application/vnd.openxmlformats-officedocument.wordprocessingml.template.main+xml"
    return found


@sample
def properties_and_sources():
    cited = "<w:sdt><w:sdtPr><w:citation/></w:sdtPr><w:sdtContent>" + field(r"CITATION Wei26 \l 2057", "(Weir, 2026)") + "</w:sdtContent></w:sdt>"
    body = [*HEAD, p("As has been said ", cited, r(".")), "<w:sdt><w:sdtPr><w:bibliography/></w:sdtPr><w:sdtContent>" + p(field("BIBLIOGRAPHY", "Weir, A., 2026. Wheels.")) + "</w:sdtContent></w:sdt>"]
    found = Package("".join(body))
    found.property_part("core-properties", "docProps/core.xml", '<cp:coreProperties xmlns:cp="http://schemas.openxmlformats.org/package/2006/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:dcterms="http://purl.org/dc/terms/"><dc:title>Tides</dc:title><dc:creator>Ada Weir; Tom Leat</dc:creator><cp:keywords>tides, wheels</cp:keywords><dcterms:created>2026-05-01T08:00:00Z</dcterms:created><cp:revision>4</cp:revision></cp:coreProperties>')
    found.property_part("extended-properties", "docProps/app.xml", '<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/extended-properties"><Application>A program</Application><Company>Marrowby Tide Mill Trust</Company><Words>12</Words></Properties>')
    found.property_part("custom-properties", "docProps/custom.xml", '<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/custom-properties" xmlns:vt="http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes"><property fmtid="{D5CDD505-2E9C-101B-9397-08002B2CF9AE}" pid="2" name="Checked"><vt:bool>true</vt:bool></property><property fmtid="{D5CDD505-2E9C-101B-9397-08002B2CF9AE}" pid="3" name="Edition"><vt:i4>3</vt:i4></property></Properties>')
    source = "<b:Source><b:Tag>Wei26</b:Tag><b:SourceType>Book</b:SourceType><b:Author><b:Author><b:NameList><b:Person><b:Last>Weir</b:Last><b:First>Ada</b:First></b:Person></b:NameList></b:Author></b:Author><b:Title>Wheels</b:Title><b:Year>2026</b:Year></b:Source>"
    found.add_file("customXml", "customXml/item1.xml", xml("b:Sources", source))
    return found


@sample
def embedded_chunk():
    found = Package("".join(HEAD) + '<w:altChunk r:id="rChunk"/>' + p("After the chunk.") + '<w:altChunk r:id="rText"/>')
    found.add_file("aFChunk", "word/chunk.html", "<html><head><title>Chunk</title></head><body><h2>From a page</h2><p>Kept <b>bold</b>.</p><script>alert(1)</script></body></html>", "rChunk")
    found.add_file("aFChunk", "word/chunk.txt", "Plain words of another file.\nOn two lines.", "rText")
    return found


@sample
def odd_package():
    found = Package("".join(HEAD) + p(link("rNowhere", "a link to nowhere")) + p(picture("rPic", "The wheel")))
    found.parts["WORD/Media/Wheel.PNG"] = png(30, 20, (10, 90, 107))
    found.relate("image", "/word/media/wheel.png", "rPic")
    found.relate("footnotes", "notes-that-are-not-there.xml")
    found.relate("settings", "https://mill.example/settings.xml", external=True)
    return found


@sample
def typed_by_hand():
    body = [
        p("By hand", style="Heading1"), p("• oil"), p("• rope"), p("1. gates"), p("2. wheel"), p(), p(), p(r("Rates", "b")),
        p("Child\t3.50"), p("Adult\t7.00"), p("Family\t16.00"), p("Name: ______________________"), p("Opening hours ........ 10 to 5"), p("Two  spaces  and a ligature: ﬁne."), p(r("Fancy", "", '<w:rFonts w:ascii="Papyrus" w:hAnsi="Papyrus"/>')),
    ]
    return Package("".join(body))


@sample
def symbols():
    fonts = ["Symbol", "Wingdings", "Wingdings 2", "Wingdings 3", "Webdings"]
    body = [p("Symbols", style="Heading1")]
    for font in fonts:
        body.append(p(f"{font}: ", *(raw(f'<w:sym w:font="{font}" w:char="F0{code:02X}"/>') for code in (0x50, 0x61, 0x67, 0x6E, 0xA3 if font != "Webdings" else 0x72, 0x52 if font == "Wingdings 2" else 0x61))))
    faced = lambda font, text: raw(t(text), "", f'<w:rFonts w:ascii="{font}" w:hAnsi="{font}"/>')
    body += [p(faced("Symbol", "abc"), r(" and "), faced("Wingdings", "\uf0fc\uf0fb")), p(raw('<w:sym w:font="Segoe UI Symbol" w:char="2610"/>'), raw('<w:sym w:font="Wingdings 3" w:char="F021"/>'))]
    body.append(p(raw('<mc:AlternateContent><mc:Choice Requires="w16se"><w16se:symEx xmlns:w16se="http://schemas.microsoft.com/office/word/2015/wordml/symex" w16se:font="Segoe UI Emoji" w16se:char="1F30A"/></mc:Choice><mc:Fallback><w:t>🌊</w:t></mc:Fallback></mc:AlternateContent>')))
    return Package("".join(body))


@sample
def embedded_object():
    ole = '<w:object w:dxaOrig="1440" w:dyaOrig="960"><v:shape style="width:72pt;height:48pt" alt="Tide sheet"><v:imagedata r:id="rPic" o:title=""/></v:shape><o:OLEObject Type="Embed" ProgID="Excel.Sheet.12" ShapeID="x" DrawAspect="Content" ObjectID="_1" r:id="rOle"/></w:object>'
    found = Package("".join(HEAD) + p(raw(ole)) + p("After the object."))
    found.add_file("image", "word/media/sheet.png", png(60, 40, (107, 142, 78)), "rPic")
    found.add_file("package", "word/embeddings/tides.xlsx", b"PK\x05\x06" + b"\0" * 18, "rOle")
    return found


@sample
def styles_in_other_languages():
    styles = DEFAULTS + style("paragraph", "Standard", "Normal", default=True)
    styles += style("paragraph", "berschrift1", "heading 1", "Standard", '<w:outlineLvl w:val="0"/>', "<w:b/>") + style("paragraph", "berschrift2", "heading 2", "Standard", '<w:outlineLvl w:val="1"/>')
    styles += style("paragraph", "Listenabsatz", "List Paragraph", "Standard", '<w:ind w:left="720"/>') + style("paragraph", "Beschriftung", "caption", "Standard") + style("paragraph", "Zitat", "Quote", "Standard", rpr="<w:i/>")
    styles += style("paragraph", "Eigen", "Mühlenüberschrift", "berschrift1", rpr='<w:color w:val="7D4A36"/>') + style("paragraph", "Kreis", "Kreis", "Kreis") + style("character", "Fett", "Strong", rpr="<w:b/>")
    body = [p("Überschrift", style="berschrift1"), p("Eigene", style="Eigen"), p("Zweite", style="berschrift2"), p("Ein ", r("fettes", "rStyle=Fett"), " Wort."), p("Ein Zitat.", style="Zitat"), p("Im Kreis.", style="Kreis"), p("Ohne Stil.", style="GibtEsNicht"), p("Direkt", ppr='<w:outlineLvl w:val="2"/>')]
    return Package("".join(body), styles)


@sample
def handbook():
    body = [p("Handbook", style="Title")]
    for n in range(1, 9):
        body += [p(f"Chapter {n}", style="Heading1"), p(f"What chapter {n} says about ", r("the wheel", "i"), r(" and "), r("the gates", "b"), r("."))]
        body += [p(f"Step {k} of chapter {n}", style="ListParagraph", num=(n, 0)) for k in range(1, 4)]
        body += [table(row("Gate", "Turns"), row("Seaward", str(n)), row("Landward", str(n * 2)), widths=(3000, 3000), tblpr='<w:tblStyle w:val="TableGrid"/>'), p("“A mill is a clock that eats corn.”", style="Quote")]
    numbering = abstract(1, level(0, "decimal", "%1."))
    numbering += "".join(num(n, 1, '<w:lvlOverride w:ilvl="0"><w:startOverride w:val="1"/></w:lvlOverride>') for n in range(1, 9))
    return Package("".join(body), numbering=numbering)


def main():
    folder = pathlib.Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    endings = {"macro-file": "docm", "template": "dotx"}
    for name, make in SAMPLES.items():
        make().save(folder / f"{name}.{endings.get(name, 'docx')}")
    print(f"{len(SAMPLES)} Word files")


main()

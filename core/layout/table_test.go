package layout_test

import (
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

const plainCells = `<style>table{border-spacing:0}td,th{padding:0}td i,th i{display:block;height:10px}</style>`

// cellsOf writes a table of cells with ids a, b, c ..., in rows; each cell is what stands between bars: a style, or
// "2x1" and a style for one that spans two columns and one row. Each holds a block of 10 px.
func cellsOf(attrs string, rows ...string) string {
	var b strings.Builder
	b.WriteString(plainCells + "<table id=t " + attrs + ">")
	name := 'a'
	for _, row := range rows {
		b.WriteString("<tr>")
		for _, cell := range strings.Split(row, "|") {
			span := ""
			if len(cell) > 2 && cell[1] == 'x' {
				span = " colspan=" + cell[:1] + " rowspan=" + cell[2:3]
				cell = cell[3:]
			}
			b.WriteString("<td id=" + string(name) + span + ` style="` + strings.TrimSpace(cell) + `"><i></i></td>`)
			name++
		}
		b.WriteString("</tr>")
	}
	return b.String() + "</table>"
}

// inPx writes what boxes gives in px.
func inPx(s string) string {
	return regexp.MustCompile(`[0-9]+`).ReplaceAllStringFunc(s, func(n string) string {
		v, _ := strconv.Atoi(n)
		return strconv.FormatFloat(float64(v)/64, 'f', -1, 64)
	})
}

// The sizes are those of a browser (measured), or follow from CSS 2, section 17.5, in px.
func TestWidthsOfColumns(t *testing.T) {
	for _, c := range []struct{ what, attrs, row, want string }{
		{"lengths stay", "", "width:30px|width:70px", "t 0,0 100x10; a 0,0 30x10; b 30,0 70x10"},
		{"columns without a width take what is left", "style='width:300px'",
			"width:100px|min-width:50px|min-width:50px",
			"t 0,0 300x10; a 0,0 100x10; b 100,0 100x10; c 200,0 100x10"},
		{"lengths grow when nothing else can", "style='width:300px'", "width:50px|width:100px",
			"t 0,0 300x10; a 0,0 100x10; b 100,0 200x10"},
		{"percentages first", "style='width:400px'", "width:25%|min-width:10px",
			"t 0,0 400x10; a 0,0 100x10; b 100,0 300x10"},
		{"no more than a hundred in all", "style='width:200px'", "width:80%|width:60%",
			"t 0,0 200x10; a 0,0 160x10; b 160,0 40x10"},
		{"a table is as wide as its columns", "style='width:50px'", "min-width:60px|min-width:40px",
			"t 0,0 100x10; a 0,0 60x10; b 60,0 40x10"},
		{"max-width does not make it narrower than they are", "style='max-width:50px'", "min-width:60px",
			"t 0,0 60x10; a 0,0 60x10"},
		{"room between", "style='border-spacing:4px 6px'", "width:10px|width:20px",
			"t 0,0 42x22; a 4,6 10x10; b 18,6 20x10"},
		{"fixed: what the first row says", "style='table-layout:fixed;width:300px'", "width:60px|min-width:999px|",
			"t 0,0 300x10; a 0,0 60x10; b 60,0 120x10; c 180,0 120x10"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, cellsOf(c.attrs, c.row), 1000)), c.what)
	}
}

func TestCellsOverSeveralColumnsAndRows(t *testing.T) {
	for _, c := range []struct {
		what, attrs string
		rows        []string
		want        string
	}{
		{"a wide one spreads over its columns by their sizes", "", []string{"width:20px|width:60px", "2x1width:160px"},
			"t 0,0 160x20; a 0,0 40x10; b 40,0 120x10; c 0,10 160x10"},
		{"a tall one makes the rows higher", "", []string{"1x2height:50px|width:9px", "width:9px"},
			"t 0,0 9x50; a 0,0 0x50; b 0,0 9x25; c 0,25 9x25"},
		{"cells go around one that spans", "", []string{"1x2width:10px|width:20px", "width:5px"},
			"t 0,0 30x20; a 0,0 10x20; b 10,0 20x10; c 10,10 20x10"},
		{"a span ends with its rows", "", []string{"1x9width:10px|width:20px"},
			"t 0,0 30x10; a 0,0 10x10; b 10,0 20x10"},
		{"columns without cells take no room", "style='border-spacing:2px'", []string{"3x1width:30px"},
			"t 0,0 34x14; a 2,2 30x10"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, cellsOf(c.attrs, c.rows...), 1000)), c.what)
	}
}

func TestHeightsOfRows(t *testing.T) {
	for _, c := range []struct {
		what, attrs string
		rows        []string
		want        string
	}{
		{"the height of a table is shared by the heights of its rows", "style='height:90px'",
			[]string{"width:9px", "width:9px;padding:10px 0 0"}, "t 0,0 9x90; a 0,0 9x30; b 0,30 9x60"},
		{"a cell is as high as its row", "", []string{"width:9px;height:40px|width:9px"},
			"t 0,0 18x40; a 0,0 9x40; b 9,0 9x40"},
		{"percentages of the height of the table", "style='height:100px'",
			[]string{"width:9px;height:70%", "width:9px"},
			"t 0,0 9x100; a 0,0 9x70; b 0,70 9x30"},
		{"content is never cut", "style='height:5px'", []string{"width:9px"}, "t 0,0 9x10; a 0,0 9x10"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, cellsOf(c.attrs, c.rows...), 1000)), c.what)
	}
}

func TestContentOfCellsStandsWhereItIsTold(t *testing.T) {
	page := plainCells + `<table><tr><td style="height:50px;vertical-align:%s"><div id=x style="width:5px;height:10px"></div></td></tr></table>`
	for align, y := range map[string]string{"top": "0", "middle": "20", "bottom": "40", "baseline": "0"} {
		assert.Equal(t, "x 0,"+y+" 5x10", inPx(boxes(t, strings.Replace(page, "%s", align, 1), 500)), align)
	}
	assert.Equal(t, "x 0,20 5x10", inPx(boxes(t, strings.Replace(page, " style=\"height:50px;vertical-align:%s\"",
		" height=50", 1), 500)), "in the middle, unless told otherwise")
	// percentages look at a height that is given, not at that of the row
	given := plainCells +
		`<table><tr><td style="%s"><div id=x style="width:5px;height:50%%"></div><td><div style="height:80px"></div></tr></table>`
	assert.Equal(
		t,
		"x 0,20 5x40",
		inPx(boxes(t, strings.Replace(strings.Replace(given, "%s", "height:60px", 1), "%%", "%", 1), 500)),
	)
	assert.Equal(
		t,
		"x 0,40 5x0",
		inPx(boxes(t, strings.Replace(strings.Replace(given, "%s", "", 1), "%%", "%", 1), 500)),
	)
}

func TestBordersThatCellsShare(t *testing.T) {
	shared := func(style string, rows ...string) string {
		return inPx(boxes(t, cellsOf("style='border-collapse:collapse;"+style+"'", rows...), 1000))
	}
	assert.Equal(
		t,
		"t 0,0 24x14; a 1,1 11x12; b 12,1 11x12",
		shared("", "width:9px;border:2px solid|width:9px;border:2px solid"),
		"half of each on both sides",
	)
	assert.Equal(t, "t 0,0 28x22; a 2,4 13x16; b 15,4 12x16", shared("border-top:8px solid",
		"width:9px;border:4px solid|width:9px;border:2px solid"), "the wider one wins")
	assert.Equal(t, "t 0,0 20x10; a 0,0 9x10; b 9,0 10x10", shared(
		"",
		"width:9px;border:hidden|width:9px;border-right:2px solid;border-left:6px solid",
	), "a hidden one wins over all")
	assert.Equal(t, "t 0,0 9x16; a 0,0 9x13", shared("padding:20px", "width:9px;border-bottom:6px solid"),
		"such a table has no padding, and stands on half of its border")
}

func TestCaptionsStandOutsideOfTheFrame(t *testing.T) {
	page := plainCells + `<table id=t style="border:2px solid"><caption id=c style="%s"><i></i></caption><tr><td id=a style="width:40px;height:30px"></table><style>caption i{display:block;height:10px}</style>`
	assert.Equal(t, "t 0,0 44x44; c 0,0 44x10; a 2,12 40x30", inPx(boxes(t, strings.Replace(page, "%s", "", 1), 500)))
	assert.Equal(t, "t 0,0 44x50; c 0,40 44x10; a 2,2 40x30",
		inPx(boxes(t, strings.Replace(page, "%s", "caption-side:bottom;margin:6px 0 0", 1), 500)))
	assert.Equal(t, "t 0,0 100x44; c 0,0 100x10; a 2,12 96x30",
		inPx(boxes(t, strings.Replace(page, "%s", "min-width:100px", 1), 500)), "a table is as wide as its caption")
}

// Measured in Chromium: a height that a table has of its own is without its captions, one that it is given is with
// them.
func TestHeightsOfTablesWithCaptions(t *testing.T) {
	table := func(style string) string {
		return `<table id=t style="` + style + `"><caption style="height:10px"></caption><tr><td id=a></table>`
	}
	for _, c := range []struct{ what, page, want string }{
		{"its own", table("height:100px"), "t 0,0 10x110; a 0,10 10x100"},
		{"its least", table("min-height:50px"), "t 0,0 10x60; a 0,10 10x50"},
		{"stretched", `<div style="display:flex;height:100px">` + table("") + `</div>`, "t 0,0 10x100; a 0,10 10x90"},
		{"in a column", `<div style="display:flex;flex-direction:column;width:10px">` + table("height:100px") +
			`</div>`, "t 0,0 10x110; a 0,10 10x100"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, plainCells+`<style>td{width:10px}</style>`+c.page, 300)), c.what)
	}
}

// Measured in Chromium.
func TestRowGroupsWithoutRows(t *testing.T) {
	for _, c := range []struct{ what, page, want string }{
		{"share the height that a table is given", `<table style="height:90px"><tbody id=a><tbody id=b></table>`,
			"a 0,0 0x45; b 0,45 0x45"},
		{"by the heights that they have", `<table style="height:90px"><tbody id=a style="height:10px"><tbody id=b style="height:20px"></table>`,
			"a 0,0 0x30; b 0,30 0x60"},
		{"those with a length let others grow first",
			`<table style="height:90px"><tbody id=a style="height:10px"><tbody id=b></table>`,
			"a 0,0 0x10; b 0,10 0x80"},
		{"those with a percentage come before them",
			`<table style="height:90px"><tbody id=a style="height:50%"><tbody id=b style="height:9px"></table>`,
			"a 0,0 0x45; b 0,45 0x45"},
		{"what all lack is shared", `<table style="height:90px"><tbody id=a style="height:80%">` +
			`<tbody id=b style="height:40%"></table>`,
			"a 0,0 0x60; b 0,60 0x30"},
		{"head and foot grow where there is no body",
			`<table style="height:90px"><thead id=a style="height:10px"></thead><tfoot id=b></tfoot></table>`,
			"a 0,0 0x10; b 0,10 0x80"},
		{"after those with rows", `<table style="height:90px"><tr id=a><td style="height:20px"><tbody id=b></table>`,
			"a 0,0 0x90; b 0,90 0x0"},
		{"columns are as high as the groups",
			`<table><col id=c style="width:9px"><tbody id=a style="height:10px"><tbody id=b style="height:20px"></table>`,
			"c 0,0 9x30; a 0,0 9x10; b 0,10 9x20"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, plainCells+c.page, 300)), c.what)
	}
}

// Columns in which no cell begins, and that have no width, are none: they take no room and no gap (measured).
func TestColumnsThatNoCellBeginsIn(t *testing.T) {
	for _, c := range []struct{ what, page, want string }{
		{"the first takes all", `<table style="width:90px"><tr><td id=a colspan=3><tr><td colspan=2 id=b></table>`,
			"a 0,0 90x0; b 0,0 90x0"},
		{"what has no width takes what is left", `<table style="width:90px"><tr><td id=a><td id=b style="width:30px"></table>`,
			"a 0,0 60x0; b 60,0 30x0"},
		{"no width, no column", `<table style="width:90px;border-spacing:5px 0"><col id=a style="width:20px"><col id=b style="width:0"></table>`,
			"a 5,0 80x0; b 5,0 0x0"},
		{"0 % says nothing", `<table style="width:90px"><col style="width:0%"><tr><td id=a style="width:30px"><td id=b></table>`,
			"a 0,0 30x0; b 30,0 60x0"},
		{"a fixed table adds padding to percentages",
			`<table style="width:90px;table-layout:fixed"><tr><td id=a style="width:10%;padding:0 4px"><td id=b></table>`,
			"a 0,0 17x0; b 17,0 73x0"},
		{"and makes lengths narrower only where they alone are too wide",
			`<table style="width:90px;table-layout:fixed"><tr><td id=a style="width:80%"><td id=b style="width:50px"></table>`,
			"a 0,0 40x0; b 40,0 50x0"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, plainCells+c.page, 300)), c.what)
	}
}

// Percentages of columns do not make what holds a table wider, where it is an item; nothing makes a table narrower
// than its cells (measured).
func TestTablesAsItems(t *testing.T) {
	cells := `<tr><td id=a style="width:10%"><i></i><td id=b><i></i></table>`
	style := plainCells + `<style>i{display:block;width:20px}</style>`
	for _, c := range []struct{ what, page, want string }{
		{"in a row", `<div style="display:flex"><table>` + cells + `</div>`, "a 0,0 20x10; b 20,0 20x10"},
		{"deeper in", `<div style="display:flex"><div><table>` + cells + `</div></div>`, "a 0,0 20x10; b 20,0 20x10"},
		{"in a block", `<table>` + cells, "a 0,0 20x10; b 20,0 180x10"},
		{"not under its cells", `<div style="display:flex"><table style="max-width:9px">` + cells + `</div>`,
			"a 0,0 20x10; b 20,0 20x10"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, style+c.page, 300)), c.what)
	}
}

// Parts of tables that stand alone are put into tables (CSS Tables 3, section 2.2).
func TestPartsWithoutATable(t *testing.T) {
	cell := "display:table-cell;width:20px;height:10px"
	for page, want := range map[string]string{
		`<div id=a style="` + cell + `"></div><div id=b style="` + cell +
			`"></div>`: "a 0,0 20x10; b 20,0 20x10",
		`<div style="display:table-row"><p id=a style="height:5px;margin:0;width:9px"></p></div>`: "a 0,0 9x5",
		`<div style="display:table"><div id=a style="width:30px;height:8px"></div></div>`:         "a 0,0 30x8",
		`<div style="display:flex"><div id=a style="` + cell +
			`"></div></div>`: "a 0,0 20x10",
		`<table style="border-spacing:0"><tfoot><tr id=f><td><tbody><tr id=b><td><thead><tr id=h><td></table>`: "f 0,4 2x2; b 0,2 2x2; h 0,0 2x2",
	} {
		assert.Equal(t, want, inPx(boxes(t, page, 500)), page)
	}
}

package adopt

import (
	"cmp"
	"maps"
	"slices"
	"strings"
)

// How declarations are written: in the order that people write them, four sides as one.

// written is the order in which people write declarations: where a box is, how it lays out, its size, its distances,
// its looks, its text.
var written = []string{
	"position",
	"inset",
	"top",
	"right",
	"bottom",
	"left",
	"z-index",
	"float",
	"clear",
	"display",
	"flex",
	"grid",
	"column",
	"align",
	"justify",
	"place",
	"gap",
	"row-gap",
	"order",
	"box-sizing",
	"width",
	"min-width",
	"max-width",
	"height",
	"min-height",
	"max-height",
	"aspect-ratio",
	"object",
	"margin",
	"padding",
	"border",
	"background",
	"box-shadow",
	"overflow",
	"opacity",
	"color",
	"font",
	"line-height",
	"letter-spacing",
	"text",
}

// inOrder compares properties by that order.
func inOrder(a, b string) int {
	rank := func(name string) int {
		best, long := len(written), 0
		for i, w := range written {
			if (name == w || strings.HasPrefix(name, w+"-")) && len(w) > long {
				best, long = i, len(w)
			}
		}
		return best
	}
	return cmp.Or(cmp.Compare(rank(a), rank(b)), strings.Compare(a, b))
}

// declarations writes declarations, four sides as one where they are said.
func declarations(of map[string]string) string {
	list := maps.Clone(of)
	for _, s := range sides {
		var v [4]string
		all := true
		for i, name := range s.long {
			v[i] = list[name]
			all = all && v[i] != ""
		}
		if !all {
			continue
		}
		for _, name := range s.long {
			delete(list, name)
		}
		switch {
		case v[0] == v[1] && v[1] == v[2] && v[2] == v[3]:
			list[s.short] = v[0]
		case v[0] == v[2] && v[1] == v[3]:
			list[s.short] = v[0] + " " + v[1]
		default:
			list[s.short] = strings.Join(v[:], " ")
		}
	}
	if list["border-width"] != "" && list["border-style"] != "" &&
		!strings.Contains(list["border-width"]+list["border-style"], " ") {
		list["border"] = strings.TrimSpace(
			list["border-width"] + " " + list["border-style"] + " " + list["border-color"],
		)
		delete(list, "border-width")
		delete(list, "border-style")
		delete(list, "border-color")
	}
	if list["row-gap"] != "" && list["row-gap"] == list["column-gap"] {
		list["gap"] = list["row-gap"]
		delete(list, "row-gap")
		delete(list, "column-gap")
	}
	var out []string
	for _, k := range slices.SortedFunc(maps.Keys(list), inOrder) {
		out = append(out, k+": "+list[k]+";")
	}
	return strings.Join(out, " ")
}

// sides are properties of which one word says all four.
var sides = []struct {
	short string
	long  [4]string
}{
	{"margin", [4]string{"margin-top", "margin-right", "margin-bottom", "margin-left"}},
	{"padding", [4]string{"padding-top", "padding-right", "padding-bottom", "padding-left"}},
	{"border-width", [4]string{"border-top-width", "border-right-width", "border-bottom-width", "border-left-width"}},
	{"border-style", [4]string{"border-top-style", "border-right-style", "border-bottom-style", "border-left-style"}},
	{"border-color", [4]string{"border-top-color", "border-right-color", "border-bottom-color", "border-left-color"}},
	{"border-radius", [4]string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius",
		"border-bottom-left-radius"}},
	{"inset", [4]string{"top", "right", "bottom", "left"}},
}

package compare

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// together puts differences into one that are the same in several entries of a list: each card has the same padding,
// each title the same color. What they say then holds for all of them, and one command mends them all.
func (d *differ) together(list []Difference) []Difference {
	count := map[string]map[string]bool{} // the entries of each part
	for _, p := range d.ours.pieces {
		if all, _, ok := entry(p.address); ok {
			if count[all] == nil {
				count[all] = map[string]bool{}
			}
			count[all][p.address] = true
		}
	}
	type key struct {
		kind         Kind
		axis, part   string
		ours, theirs string
	}
	keyOf := func(x Difference) (key, bool) {
		all, _, ok := entry(x.Address)
		if !ok || x.Kind == Missing || x.Kind == Words {
			return key{}, false
		}
		k := key{x.Kind, x.Axis, all, x.Ours, x.Theirs}
		switch {
		case x.Unit == "px":
			k.ours, k.theirs = whole(x.Ours), whole(x.Theirs)
		case x.Kind == Color || x.Kind == Weight:
			k.ours = ""
			if x.Kind == Weight {
				k.theirs = fmt.Sprint(x.Theirs, strings.Contains(x.Text, "heavier"))
			}
		}
		return k, true
	}
	groups := map[key][]int{}
	for i, x := range list {
		if k, ok := keyOf(x); ok {
			groups[k] = append(groups[k], i)
		}
	}
	for i, x := range list { // colors as measured differ a little from letter to letter
		k, ok := keyOf(x)
		if !ok || k.kind != Color {
			continue
		}
		for o, members := range groups {
			if o == k || o.kind != Color || o.part != k.part || len(members) == 0 {
				continue
			}
			if members[0] < i && slices.Contains(groups[k], i) && alikeColors(list[members[0]].Theirs, x.Theirs) {
				groups[o] = append(members, groups[k]...)
				delete(groups, k)
				break
			}
		}
	}
	drop := map[int]bool{}
	for k, members := range groups {
		entries := map[string]bool{}
		for _, m := range members {
			entries[list[m].Address] = true
		}
		page, _, _ := strings.Cut(list[members[0]].Address, "/")
		if n := len(count[strings.TrimPrefix(k.part, page+"/")]); n < 2 || len(entries) < n {
			continue
		}
		slices.Sort(members)
		first := &list[members[0]]
		for _, m := range members[1:] {
			drop[m] = true
			first.By = math.Max(first.By, list[m].By)
		}
		first.Address = k.part
		first.Text += fmt.Sprintf("; each of the %d alike", len(entries))
		for w, word := range first.Command {
			if all, rest, ok := entry(word); ok && rest == "" {
				first.Command[w] = all
			}
		}
	}
	var out []Difference
	for i, x := range list {
		if !drop[i] {
			out = append(out, x)
		}
	}
	return out
}

// entry takes the number off an address.
func entry(address string) (all, rest string, ok bool) {
	head, tail, ok := strings.Cut(address, "[")
	if !ok {
		return address, "", false
	}
	_, rest, ok = strings.Cut(tail, "]")
	return head, rest, ok
}

// whole rounds a length to px.
func whole(length string) string {
	v := 0.0
	if _, err := fmt.Sscanf(length, "%g px", &v); err != nil {
		return length
	}
	return fmt.Sprint(math.Round(v))
}

func alikeColors(a, b string) bool {
	var x, y rgb
	_, err := fmt.Sscanf(a, "#%02x%02x%02x", &x[0], &x[1], &x[2])
	_, second := fmt.Sscanf(b, "#%02x%02x%02x", &y[0], &y[1], &y[2])
	return err == nil && second == nil && deltaE(x, y) < 4
}

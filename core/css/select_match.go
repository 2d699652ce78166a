package css

import "strings"

// Matches reports whether the selector, its pseudo-element aside, selects e. Nothing is hovered, focused or visited.
func (s *Selector) Matches(e *Element) bool { return s.matchFrom(len(s.compounds)-1, e, nil) }

func (s *Selector) matchFrom(i int, e, scope *Element) bool {
	c := s.compounds[i]
	for k := range c.tests {
		if !c.tests[k].matches(e, scope) {
			return false
		}
	}
	if i == 0 {
		return true
	}
	switch c.combinator {
	case '>':
		return e.Parent != nil && s.matchFrom(i-1, e.Parent, scope)
	case ' ':
		for p := e.Parent; p != nil; p = p.Parent {
			if s.matchFrom(i-1, p, scope) {
				return true
			}
		}
	case '+':
		return e.Parent != nil && e.Nth > 1 && s.matchFrom(i-1, e.Parent.kids[e.Nth-2], scope)
	case '~':
		for n := e.Nth - 1; n >= 1 && e.Parent != nil; n-- {
			if s.matchFrom(i-1, e.Parent.kids[n-1], scope) {
				return true
			}
		}
	}
	return false
}

func (t *test) matches(e, scope *Element) bool {
	switch t.kind {
	case '*':
		return true
	case 't':
		return strings.EqualFold(e.Tag, t.name)
	case '#':
		return e.ID == t.name
	case '.':
		return e.HasClass(t.name)
	case '[':
		return t.attribute(e)
	}
	return t.pseudo(e, scope)
}

func (t *test) attribute(e *Element) bool {
	v, ok := e.LookupAttr(t.name)
	if !ok || t.op == "" {
		return ok
	}
	want := t.value
	if t.fold {
		v, want = strings.ToLower(v), strings.ToLower(want)
	}
	switch t.op {
	case "=":
		return v == want
	case "~=":
		for _, w := range strings.Fields(v) {
			if w == want {
				return true
			}
		}
		return false
	case "|=":
		return v == want || strings.HasPrefix(v, want+"-")
	case "^=":
		return want != "" && strings.HasPrefix(v, want)
	case "$=":
		return want != "" && strings.HasSuffix(v, want)
	case "*=":
		return want != "" && strings.Contains(v, want)
	}
	return false
}

func (t *test) pseudo(e, scope *Element) bool {
	switch t.name {
	case "is":
		return anyMatches(t.list, e, scope)
	case "not":
		return !anyMatches(t.list, e, scope)
	case "has":
		return t.has(e)
	case "scope":
		if scope != nil {
			return e == scope
		}
		return e.Parent == nil
	case "root":
		return e.Parent == nil
	case "empty":
		return len(e.Children) == 0
	case "first-child":
		return e.Parent == nil || e.Nth == 1
	case "last-child":
		return e.Parent == nil || e.Nth == e.Parent.Elements
	case "only-child":
		return e.Parent == nil || e.Parent.Elements == 1
	case "first-of-type":
		return ofType(e, false) == 1
	case "last-of-type":
		return ofType(e, true) == 1
	case "only-of-type":
		return ofType(e, false) == 1 && ofType(e, true) == 1
	case "nth-child", "nth-last-child":
		return nth(t.a, t.b, t.position(e))
	case "nth-of-type":
		return nth(t.a, t.b, ofType(e, false))
	case "nth-last-of-type":
		return nth(t.a, t.b, ofType(e, true))
	case "link", "any-link":
		_, href := e.LookupAttr("href")
		return href && (e.Tag == "a" || e.Tag == "area")
	case "checked":
		_, on := e.LookupAttr("checked")
		_, sel := e.LookupAttr("selected")
		return on || sel
	case "disabled":
		return isDisabled(e)
	case "enabled":
		return isControl(e) && !isDisabled(e)
	case "required":
		_, on := e.LookupAttr("required")
		return on && isField(e)
	case "optional":
		_, on := e.LookupAttr("required")
		return !on && (isField(e) || e.Tag == "button")
	case "placeholder-shown":
		_, on := e.LookupAttr("placeholder")
		return on && e.Attr("value") == ""
	case "open":
		_, on := e.LookupAttr("open")
		return on
	case "defined":
		return true
	case "lang":
		for x := e; x != nil; x = x.Parent {
			if l, ok := x.LookupAttr("lang"); ok {
				l = strings.ToLower(l)
				return l == t.value || strings.HasPrefix(l, t.value+"-")
			}
		}
	case "dir":
		return directionality(e) == t.value
	case "read-write":
		return isWritable(e)
	case "read-only":
		return !isWritable(e)
	case "valid":
		return (isField(e) || e.Tag == "button" || e.Tag == "form" || e.Tag == "fieldset") && !isInvalid(e)
	case "invalid":
		return isInvalid(e)
	case "indeterminate":
		_, known := e.LookupAttr("value")
		return e.Tag == "progress" && !known
	case "default":
		_, on := e.LookupAttr("checked")
		_, sel := e.LookupAttr("selected")
		return on || sel
	}
	return e.states[t.name] // hover, focus, active, target, visited, popover-open ...: none on a page at rest
}

func isControl(e *Element) bool {
	switch e.Tag {
	case "input", "button", "select", "textarea", "fieldset", "option", "optgroup":
		return true
	}
	return false
}

// directionality gives the direction of an element by markup alone (HTML, "The directionality").
func directionality(e *Element) string {
	for ; e != nil; e = e.Parent {
		d := strings.ToLower(e.Attr("dir"))
		if d == "" && e.Tag == "bdi" {
			d = "auto"
		}
		switch d {
		case "ltr", "rtl":
			return d
		case "auto":
			if firstRight(e.Text()) {
				return "rtl"
			}
			return "ltr"
		}
	}
	return "ltr"
}

func isField(e *Element) bool { return e.Tag == "input" || e.Tag == "select" || e.Tag == "textarea" }

func isDisabled(e *Element) bool {
	if _, off := e.LookupAttr("disabled"); off {
		return isControl(e)
	}
	for p := e.Parent; p != nil && isControl(e); p = p.Parent {
		if _, off := p.LookupAttr("disabled"); off && p.Tag == "fieldset" {
			return true
		}
	}
	return false
}

// isWritable reports elements that text can be typed into.
func isWritable(e *Element) bool {
	if v, ok := e.LookupAttr("contenteditable"); ok && v != "false" {
		return true
	}
	_, fixed := e.LookupAttr("readonly")
	if fixed || isDisabled(e) {
		return false
	}
	if e.Tag == "input" {
		switch strings.ToLower(e.Attr("type")) {
		case "checkbox", "radio", "range", "color", "file", "submit", "reset", "button", "image", "hidden":
			return false
		}
		return true
	}
	return e.Tag == "textarea"
}

// isInvalid reports a field whose constraint fails while nothing is filled in, and forms with one.
func isInvalid(e *Element) bool {
	if e.Tag == "form" || e.Tag == "fieldset" {
		for _, k := range e.kids {
			if isInvalid(k) {
				return true
			}
		}
		return false
	}
	if !isField(e) {
		for _, k := range e.kids {
			if isInvalid(k) {
				return e.Parent != nil && (e.Parent.Tag == "form" || e.Parent.Tag == "fieldset")
			}
		}
		return false
	}
	_, must := e.LookupAttr("required")
	if !must || isDisabled(e) {
		return false
	}
	switch {
	case e.Tag == "textarea":
		return strings.TrimSpace(e.Text()) == ""
	case e.Tag == "select":
		for _, k := range e.kids {
			if k.Tag == "option" {
				v, ok := k.LookupAttr("value")
				return ok && v == ""
			}
		}
		return true
	}
	switch strings.ToLower(e.Attr("type")) {
	case "checkbox", "radio":
		_, on := e.LookupAttr("checked")
		return !on
	}
	return e.Attr("value") == ""
}

func anyMatches(list []*Selector, e, scope *Element) bool {
	for _, s := range list {
		if s.Pseudo == "" && s.matchFrom(len(s.compounds)-1, e, scope) {
			return true
		}
	}
	return false
}

func (t *test) has(e *Element) bool {
	var search func(x *Element) bool
	search = func(x *Element) bool {
		for _, k := range x.kids {
			if anyMatches(t.list, k, e) || search(k) {
				return true
			}
		}
		return false
	}
	if search(e) {
		return true
	}
	if e.Parent != nil { // relative selectors that start with + or ~
		for _, sib := range e.Parent.kids[e.Nth:] {
			if anyMatches(t.list, sib, e) || search(sib) {
				return true
			}
		}
	}
	return false
}

func (t *test) position(e *Element) int {
	if e.Parent == nil {
		return 1
	}
	sibs := e.Parent.kids
	if t.list == nil {
		if t.name == "nth-last-child" {
			return len(sibs) - e.Nth + 1
		}
		return e.Nth
	}
	if !anyMatches(t.list, e, nil) {
		return 0
	}
	n := 0
	for _, s := range sibs {
		before := s.Nth <= e.Nth
		if t.name == "nth-last-child" {
			before = s.Nth >= e.Nth
		}
		if before && anyMatches(t.list, s, nil) {
			n++
		}
	}
	return n
}

func ofType(e *Element, last bool) int {
	if e.Parent == nil {
		return 1
	}
	n := 0
	for _, s := range e.Parent.kids {
		before := s.Tag == e.Tag && (!last && s.Nth <= e.Nth || last && s.Nth >= e.Nth)
		if before {
			n++
		}
	}
	return n
}

func nth(a, b, n int) bool {
	if n < 1 {
		return false
	}
	if a == 0 {
		return n == b
	}
	return (n-b)%a == 0 && (n-b)/a >= 0
}

// root finds the nearest scoping root of an element, nil when it is outside.
func (s *scope) root(e *Element) *Element {
	for r := e; r != nil; r = r.Parent {
		if len(s.roots) > 0 && !anyMatches(s.roots, r, nil) || s.within != nil && s.within.root(r) == nil {
			continue
		}
		cut := false
		for x := e; len(s.limits) > 0; x = x.Parent {
			cut = cut || anyMatches(s.limits, x, r)
			if x == r {
				break
			}
		}
		if !cut {
			return r
		}
	}
	return nil
}

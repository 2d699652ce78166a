package css

// keep notes the value of a property that the layout has no use for.
func (spec *specified) keep(pl parsedLonghand) {
	if spec.values == nil {
		spec.values = map[string][]Token{}
	}
	switch wide := pl.wide; {
	case wide == "":
		spec.values[pl.name] = pl.value
	case wide == "initial" || wide != "inherit" && pl.name != "color":
		spec.values[pl.name] = word("initial")
	}
}

func (m stateMask) has(i int) bool {
	if i < 256 {
		return m.first[i>>6]&(1<<(uint(i)&63)) != 0
	}
	return m.rest[i-256] == '1'
}

type specKey struct {
	mask stateMask
	vars *vars
	way  Way // how text runs around the element
}

// slot is the memory of a Styler for one element or pseudo-element.
type slot struct {
	specs map[specKey]*specified
	key   specKey // of the last one
	spec  *specified
	last  styleKey
	style *Style
	spare *Style   // memory for the next style: two take turns
	was   styleKey // of the spare one
}

// fresh gives memory for another style of a slot: that of the one before the last. Its version tells that it is
// another style.
func (sl *slot) fresh() *Style {
	if sl.spare == nil {
		return &Style{}
	}
	return sl.spare
}

type styleKey struct {
	spec      *specified
	inherited *Inherited
	parent    *Style // only when the style looks at it
	vw        float64
	cq        [2]float64 // width and height that container units refer to
	root      float64
}

// Styler computes styles of one document at one viewport after the other. It is for one goroutine.
type Styler struct {
	doc      *Document
	media    Media
	truth    []bool
	slots    []slot
	pseudos  map[string][]slot
	rootSize float64
	base     Style
	root     Style                  // of the root element
	initial  Style                  // values of properties that nothing sets
	parsed   map[string]parsedValue // by "name: value"
	rootLine float64
	versions int
	queries  map[string]*query

	computing computing // memory
	measured  *Style    // whose font the units ask
	tried     Inherited // memory for values that may come out as they were

	// Face measures the font of a style. Nil makes guesses.
	Face func(s *Style) FaceUnits
}

var noVars = &vars{}

type parsedValue struct {
	list []parsedLonghand
	ok   bool
}

package check

import (
	"cmp"
	"fmt"
	"slices"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/sweep"
)

// Bounds of the rules over pictures.
const (
	distortedBy  = .02     // of the ratio
	leastVisible = .45     // of a cropped picture
	heavyFrom    = 150_000 // bytes
	heavyTimes   = 2.5     // times the CSS px it is ever shown at: sharp screens show two pixels for one
)

// enlarged: a picture is shown larger than it is.
var enlarged = rule{
	name: "picture-enlarged", severity: diag.Warning, what: "a picture is shown wider than it has pixels",
	looks: "files of pixels with one size",
	not:   "drawings, srcset and video",
	limit: bound{1.01, "times its pixels"},
	remedies: []Remedy{
		{CSS: "max-width=max-content"},
		{CSS: "width=auto", Local: true},
	},
	look: boxes("width", func(s *Scene, _ *layout.Result, p *layout.Fragment) (float64, float64) {
		if s.kind[p.Element.Index] != pictureKind || p.Empty() {
			return 0, 0
		}
		w, _, ok := s.l.Picture(p.Element.Attr("src"))
		if !ok || w == 0 {
			return 0, 0
		}
		shown := p.Content.W.Float()
		return shown / w, shown - w*s.limit("picture-enlarged", p.Element)
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s is shown %.2g times as wide as it has pixels", name, worst.value)
	},
	cure: func(part string, _ hit) string { return "a larger file, or " + part + ": {max-width: max-content}" },
}

// distorted: a picture is stretched out of its own ratio.
var distorted = rule{
	name: "picture-distorted", severity: diag.Warning, what: "a picture is stretched out of its own ratio",
	looks: "pictures and their own ratio",
	not:   "drawings that stretch on purpose (preserveAspectRatio)",
	remedies: []Remedy{
		{CSS: "object-fit=cover"},
		{CSS: "height=auto", Local: true},
		{CSS: "aspect-ratio=auto", Local: true},
		{CSS: "object-fit=cover height=auto"},
		{CSS: "object-fit=cover aspect-ratio=auto"},
	},
	look: boxes("height", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		w, h, ok := s.natural(r, p)
		if !ok || s.fit(p).Fit != "fill" || p.Content.W < 64 || p.Content.H < 64 {
			return 0, 0
		}
		by := p.Content.W.Float()/p.Content.H.Float()*h/w - 1
		if by < 0 {
			by = 1/(1+by) - 1
		}
		return by, by - distortedBy
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s is stretched by %.0f %% out of its ratio", name, worst.value*100)
	},
	cure: func(part string, _ hit) string { return part + ": {object-fit: cover}" },
}

// natural gives the size of the file that an img shows at this width.
func (s *Scene) natural(r *layout.Result, p *layout.Fragment) (w, h float64, ok bool) {
	if p.Element.Tag != "img" || p.Empty() || !p.Style.Visible {
		return 0, 0, false
	}
	w, h, ok = s.l.Picture(r.Source(p.Element))
	return w, h, ok && w > 0 && h > 0
}

// manyFiles reports an img that has several files to choose from.
func manyFiles(e *css.Element) bool {
	_, many := e.LookupAttr("srcset")
	return many || e.Parent != nil && e.Parent.Tag == "picture"
}

func (s *Scene) fit(p *layout.Fragment) *css.Paint {
	return s.colors.light.Of(p.Style.Look(), css.Color{})
}

// cropped: little is left of a picture, or what it is about is cut off.
var cropped = rule{
	name: "picture-cropped", severity: diag.Note, what: "more than half of a picture is cut off, or its focus is",
	looks: "object-fit and object-position of files",
	not:   "background pictures",
	limit: bound{leastVisible, "of the picture"},
	remedies: []Remedy{
		{CSS: "object-fit=contain", Local: true},
		{CSS: "aspect-ratio=auto height=auto", Local: true},
		{CSS: "height=auto", Local: true},
		{Where: "around", CSS: "height=auto", Local: true},
	},
	look: boxes("aspect-ratio", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		w, h, ok := s.natural(r, p)
		if !ok || p.Content.W < 64 || p.Content.H < 64 {
			return 0, 0
		}
		paint := s.fit(p)
		if paint.Fit != "cover" && paint.Fit != "none" && !p.Clipped {
			return 0, 0
		}
		d := sweep.Drawn(p.Content, w, h, paint.Fit, paint.Focus)
		seen := p.Content
		if p.Clipped {
			seen = seen.Intersect(p.Clip)
			if seen.Empty() {
				return 0, 0 // in a strip that slides
			}
			fx, fy := d[0]+d[2]*paint.Focus[0], d[1]+d[3]*paint.Focus[1]
			if fx < seen.X.Float()-1 || fx > seen.Right().Float()+1 || fy < seen.Y.Float()-1 ||
				fy > seen.Bottom().Float()+1 {
				return 0, 1
			}
		}
		share := min(1, seen.W.Float()/d[2]) * min(1, seen.H.Float()/d[3])
		return share, s.limit("picture-cropped", p.Element) - share
	}),
	say: func(name, _ string, worst hit) string {
		if worst.value == 0 {
			return "the focus of " + name + " is cut off"
		}
		return fmt.Sprintf("only %.0f %% of %s can be seen", worst.value*100, name)
	},
	cure: func(part string, _ hit) string { return part + ": {aspect-ratio: auto}" },
}

// heavy: a file far larger than it is ever shown. Its hits at all widths are weighed together.
var heavy = rule{
	name: "picture-heavy", severity: diag.Note, what: "a picture file far larger than it is ever shown",
	looks:   "the bytes of a file against its largest use",
	not:     "video, fonts",
	untried: "a file is made smaller outside the page",
	look: boxes("width", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		w, h, ok := s.natural(r, p)
		if manyFiles(p.Element) || s.l.Page != nil && len(media.Copies(p.Element.Attr("src"), w, h)) > 0 {
			return 0, 0 // the build offers smaller copies
		}
		if !ok || s.kind[p.Element.Index] != pictureKind || w < p.Content.W.Float()*heavyTimes ||
			s.weight(p.Element) < heavyFrom {
			return 0, 0
		}
		return p.Content.W.Float(), p.Content.W.Float() // the widest is the worst
	}),
	whole: true,
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s is %.0f kB and never wider than %.0f px", name, worst.second/1000, worst.value)
	},
	cure: func(string, hit) string { return "a smaller file" },
	settle: func(s *Scene, list runs) runs {
		widest := slices.MaxFunc(list, func(a, b run) int { return cmp.Compare(a.worst.value, b.worst.value) })
		widest.worst.second = float64(s.weight(widest.worst.el))
		return runs{widest}
	},
}

func (s *Scene) weight(e *css.Element) int {
	if n, ok := s.weights.Load(e); ok {
		return n.(int)
	}
	data, _ := s.l.File(e.Attr("src"))
	s.weights.Store(e, len(data))
	return len(data)
}

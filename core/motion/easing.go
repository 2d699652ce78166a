package motion

import (
	"math"
	"strconv"
	"strings"
)

// easing maps how far an animation is in time to how far it looks, 0..1.
type easing func(x float64) float64

// named are the keywords of CSS Easing 2, section 2.
var named = map[string]string{
	"ease": "cubic-bezier(.25,.1,.25,1)", "ease-in": "cubic-bezier(.42,0,1,1)", "ease-out": "cubic-bezier(0,0,.58,1)",
	"ease-in-out": "cubic-bezier(.42,0,.58,1)", "step-start": "steps(1,start)", "step-end": "steps(1,end)",
}

// easingOf reads an easing function; what it does not know is linear, and ok false.
func easingOf(text string) (e easing, ok bool) {
	text = strings.ToLower(strings.TrimSpace(text))
	if n := named[text]; n != "" {
		text = n
	}
	linear := func(x float64) float64 { return x }
	name, args, found := strings.Cut(strings.TrimSuffix(text, ")"), "(")
	if !found {
		return linear, text == "linear" || text == ""
	}
	list := strings.Split(args, ",")
	switch name {
	case "cubic-bezier":
		var v [4]float64
		if len(list) != 4 {
			return linear, false
		}
		for i, a := range list {
			n, err := strconv.ParseFloat(strings.TrimSpace(a), 64)
			if err != nil || i%2 == 0 && (n < 0 || n > 1) {
				return linear, false
			}
			v[i] = n
		}
		return bezier(v[0], v[1], v[2], v[3]), true
	case "steps":
		n, err := strconv.Atoi(strings.TrimSpace(list[0]))
		if err != nil || n < 1 {
			return linear, false
		}
		jump := "end"
		if len(list) > 1 {
			jump = strings.TrimPrefix(strings.TrimSpace(list[1]), "jump-")
		}
		return steps(n, jump), true
	case "linear":
		return piecewise(list)
	}
	return linear, false
}

// bezier is a cubic Bézier curve from 0, 0 to 1, 1 (CSS Easing 2, section 2.2).
func bezier(x1, y1, x2, y2 float64) easing {
	at := func(a, b, t float64) float64 { return 3*(1-t)*(1-t)*t*a + 3*(1-t)*t*t*b + t*t*t }
	return func(x float64) float64 {
		if x <= 0 || x >= 1 {
			return max(0, min(1, x))
		}
		lo, hi := 0.0, 1.0
		for range 50 { // x grows with t
			if t := (lo + hi) / 2; at(x1, x2, t) < x {
				lo = t
			} else {
				hi = t
			}
		}
		return at(y1, y2, (lo+hi)/2)
	}
}

// steps jumps n times (CSS Easing 2, section 2.3).
func steps(n int, jump string) easing {
	count := float64(n)
	return func(x float64) float64 {
		k := math.Floor(x*count + 1e-9)
		if jump == "start" || jump == "both" {
			k++
		}
		of := count
		switch jump {
		case "none":
			of = max(1, count-1)
		case "both":
			of = count + 1
		}
		return max(0, min(1, k/of))
	}
}

// piecewise is linear() with its stops (CSS Easing 2, section 2.1).
func piecewise(list []string) (easing, bool) {
	linear := func(x float64) float64 { return x }
	type stop struct{ in, out float64 }
	var stops []stop
	for _, part := range list {
		out, ins := math.NaN(), []float64{}
		for _, w := range strings.Fields(part) {
			p, percent := strings.CutSuffix(w, "%")
			v, err := strconv.ParseFloat(p, 64)
			if err != nil {
				return linear, false
			}
			if percent {
				ins = append(ins, v/100)
			} else {
				out = v
			}
		}
		if math.IsNaN(out) {
			return linear, false
		}
		if len(ins) == 0 {
			ins = append(ins, math.NaN())
		}
		for _, in := range ins {
			stops = append(stops, stop{in, out})
		}
	}
	if len(stops) < 2 {
		return linear, false
	}
	if math.IsNaN(stops[0].in) {
		stops[0].in = 0
	}
	if last := len(stops) - 1; math.IsNaN(stops[last].in) {
		stops[last].in = max(1, stops[0].in)
	}
	for i := 1; i < len(stops); i++ { // those without a place lie evenly between
		if !math.IsNaN(stops[i].in) {
			stops[i].in = max(stops[i].in, stops[i-1].in)
			continue
		}
		j := i
		for math.IsNaN(stops[j].in) {
			j++
		}
		for k := i; k < j; k++ {
			stops[k].in = stops[i-1].in + (stops[j].in-stops[i-1].in)*float64(k-i+1)/float64(j-i+1)
		}
	}
	return func(x float64) float64 {
		i := 0
		for i < len(stops)-2 && x >= stops[i+1].in {
			i++
		}
		a, b := stops[i], stops[i+1]
		if b.in == a.in {
			return b.out
		}
		return a.out + (b.out-a.out)*(x-a.in)/(b.in-a.in)
	}, true
}

package layout

import "ziegel/core/css"

// candidates lists all places where a line may start within [from, to), the start included.
func (e *Engine) candidates(p *para, from, to cursor, hyphens bool) []cursor {
	out := append(e.scratch.cand[:0], from)
	defer func() { e.scratch.cand = out[:0] }()
	for i := from.item; i < len(p.items) && i <= to.item; i++ {
		it := &p.items[i]
		switch it.kind {
		case atomItem:
			if p.soft[it.start] && it.start > from.rune && !p.firstOnLine(from, i) {
				out = append(out, p.before(i))
			}
		case textItem:
			s := it.start
			beforeObject := s > from.rune && s < len(p.text) && p.soft[s] && p.text[s-1] == objectChar &&
				(i < to.item || s < to.rune)
			if beforeObject {
				out = append(out, p.before(i))
			}
			for k := max(it.start, from.rune) + 1; k <= it.end; k++ {
				if k >= len(p.text) || !p.soft[k] || p.text[k-1] == '\u00ad' && !hyphens {
					continue
				}
				if i == to.item && k >= to.rune {
					break
				}
				if k < it.end {
					out = append(out, cursor{i, k})
				} else if p.breakHere(i, k) {
					out = append(out, p.after(i, k))
				}
			}
		}
	}
	return out
}

// measure gives the width of the line from a to b without trailing spaces: as an unbreakable piece, with the edges of
// boxes that close at its end, or as a line to be evened out, without.
func (p *para) measure(a, b cursor, piece bool) Px {
	var done, trimmed Px
	if !piece {
		done = p.leadAt(a)
	}
	for i := a.item; i < len(p.items); i++ {
		it := &p.items[i]
		if i > b.item || i == b.item && (it.kind != textItem || b.rune <= it.start) {
			break
		}
		switch it.kind {
		case openItem, closeItem:
			done += it.edge
			switch {
			case it.edged() && it.kind == openItem:
				trimmed = done
			case it.edged() && piece:
				trimmed += it.edge
			}
		case atomItem:
			done += it.box.W + it.box.margin[css.Left] + it.box.margin[css.Right]
			trimmed = done
		case textItem:
			from, to := max(it.start, a.rune), it.end
			if i == b.item {
				to = min(to, b.rune)
			}
			if t := p.trimEnd(from, to); t > from {
				trimmed = done + p.broken(from, t)
				if piece { // places in the text as a whole, rounded up, then subtracted (measured)
					off := p.sum[it.start]
					trimmed = done + ceilPx(p.sum[t]-off) - ceilPx(p.sum[from]-off)
				}
			}
			done += p.width(from, to)
		}
	}
	return trimmed
}

// balance chooses, among the breakings with the greedy number of lines, the one with the least sum of squared free
// widths (measured; up to six lines, up to the first forced break). Edges of boxes that close at a line's end do not
// count (measured).
func (e *Engine) balance(p *para, greedy []line, avail Px) []line {
	n := len(greedy)
	for i, ln := range greedy {
		if ln.forced {
			n = i + 1
			break
		}
	}
	if n < 2 || n > 6 {
		return greedy
	}
	for _, ln := range greedy[:n] {
		if ln.width > avail+textSlack {
			return greedy
		}
	}
	best := e.leastSquares(p, greedy[:n], avail, false)
	if best == nil {
		return greedy
	}
	return append(best, greedy[n:]...)
}

// pretty re-breaks the last four lines when the last one is a single short word (measured).
func (e *Engine) pretty(p *para, greedy []line, avail Px) []line {
	n := len(greedy)
	if n < 2 || greedy[n-1].forced || greedy[n-1].width*3 >= avail ||
		len(e.candidates(p, greedy[n-1].start, greedy[n-1].end, false)) > 1 {
		return greedy
	}
	from := max(0, n-4)
	for i := from; i < n-1; i++ {
		if greedy[i].forced {
			from = i + 1
		}
	}
	if n-from < 2 {
		return greedy
	}
	best := e.leastSquares(p, greedy[from:], avail, true)
	if best == nil {
		return greedy
	}
	return append(append([]line(nil), greedy[:from]...), best...)
}

// loneWord is what a last line of one piece costs in texts of four pieces or more, in squares of 1/64 px: 10,000 px²
// (measured).
const loneWord = 10000 * 64 * 64

// leastSquares breaks the text of the lines anew into as many lines. With orphan, the last line counts nothing but
// must hold two words or more.
func (e *Engine) leastSquares(p *para, lines []line, avail Px, orphan bool) []line {
	n := len(lines)
	last := lines[n-1]
	cand := e.candidates(p, lines[0].start, last.end, false)
	m := len(cand)
	const inf = 1 << 62
	// best[k*(m+1)+j]: the first k lines end before candidate j
	best := grown(&e.scratch.plan, (n+1)*(m+1))
	for k := range best {
		best[k] = planState{inf, -1}
	}
	best[0].cost = 0
	widths := grown(&e.scratch.spans, (m+1)*(m+1))
	clear(widths)
	for k := 1; k <= n; k++ {
		for j := 1; j <= m; j++ {
			if j == m != (k == n) && (k == n || j == m) {
				continue
			}
			end := last.end
			if j < m {
				end = cand[j]
			}
			for i := j - 1; i >= 0; i-- {
				w := widths[i*(m+1)+j]
				if w == 0 {
					w = p.measure(cand[i], end, false)
					widths[i*(m+1)+j] = w
				}
				if w > avail+textSlack {
					break
				}
				if best[(k-1)*(m+1)+i].cost == inf {
					continue
				}
				free := int64(avail - w)
				cost := best[(k-1)*(m+1)+i].cost + free*free
				if k == n && j-i < 2 && m > 3 {
					cost += loneWord
				}
				if orphan && k == n {
					if j-i < 2 {
						continue
					}
					cost = best[(k-1)*(m+1)+i].cost
				}
				if at := k*(m+1) + j; cost < best[at].cost {
					best[at] = planState{cost, i}
				}
			}
		}
	}
	if best[n*(m+1)+m].cost == inf {
		return nil
	}
	out := make([]line, n)
	for k, j := n, m; k > 0; k-- {
		i := best[k*(m+1)+j].prev
		out[k-1] = line{start: cand[i], end: last.end, width: widths[i*(m+1)+j]}
		if j < m {
			out[k-1].end = cand[j]
		}
		j = i
	}
	out[n-1].forced = last.forced
	return out
}

package css

import (
	"strings"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// Kind is the type of a token, after CSS Syntax Level 3.
type Kind = css.TokenType

// Token is one token of a stylesheet with its byte offset in the source.
type Token struct {
	Kind Kind
	Text string // as written
	Pos  int    // byte offset
}

// Is reports whether the token is the delimiter or identifier s, letter case ignored.
func (t Token) Is(s string) bool { return strings.EqualFold(t.Text, s) }

// Tokenize splits a stylesheet, or any piece of one, into tokens. Comments are dropped. Every byte of the source
// belongs to exactly one token or comment.
func Tokenize(source string) []Token {
	lex := css.NewLexer(parse.NewInputString(source))
	var out []Token
	pos := 0
	for {
		kind, data := lex.Next()
		if kind == css.ErrorToken {
			return out
		}
		text := source[pos : pos+len(data)]
		switch kind {
		case css.CommentToken:
		// our property values never hold ranges, but selectors hold type names such as "u"
		case css.UnicodeRangeToken:
			out = append(out, Token{kind, text, pos})
		case css.CustomPropertyNameToken:
			out = append(out, Token{css.IdentToken, text, pos})
		case css.LeftParenthesisToken: // the lexer does not know functions of authors
			if n := len(out); n > 0 && out[n-1].Kind == css.IdentToken && strings.HasPrefix(out[n-1].Text, "--") &&
				out[n-1].Pos+len(out[n-1].Text) == pos {
				out[n-1].Kind, out[n-1].Text = css.FunctionToken, out[n-1].Text+text
				break
			}
			out = append(out, Token{kind, text, pos})
		default:
			out = append(out, Token{kind, text, pos})
		}
		pos += len(data)
	}
}

// Text joins tokens back to source text, with runs of white space made one space.
func Text(tokens []Token) string {
	var b strings.Builder
	for _, t := range tokens {
		if t.Kind == css.WhitespaceToken {
			b.WriteByte(' ')
			continue
		}
		b.WriteString(t.Text)
	}
	return strings.Trim(b.String(), " \t\n\r\f")
}

// NodeKind tells what a Node is.
type NodeKind uint8

// The kinds of Node.
const (
	QualifiedRule NodeKind = iota
	AtRule
	Declaration
)

// Node is a rule, an at-rule or a declaration, in source order, after CSS Syntax Level 3 "Parsing".
type Node struct {
	Kind      NodeKind
	Name      string  // at-rule name without @, or property name; lower case except for custom properties
	Prelude   []Token // selector or at-rule prelude
	Value     []Token // declaration value, trimmed, without !important
	Important bool
	Children  []*Node
	Block     bool // an at-rule with braces
	Pos       int  // byte offset
}

// ParseError is a place where the parser had to skip something.
type ParseError struct {
	Pos  int
	Text string
}

// Sheet is a parsed stylesheet.
type Sheet struct {
	File   string // as shown to people
	Source string
	Nodes  []*Node
	Errors []ParseError
}

// Parse reads a stylesheet. It never fails: what it cannot read is skipped as CSS Syntax prescribes and listed in
// Errors.
func Parse(file, source string) *Sheet {
	p := &parser{tokens: Tokenize(source)}
	nodes := p.rules()
	return &Sheet{File: file, Source: source, Nodes: nodes, Errors: p.errors}
}

// ParseDeclarations reads the contents of a style attribute.
func ParseDeclarations(source string) ([]*Node, []ParseError) {
	p := &parser{tokens: Tokenize(source)}
	nodes := p.block(false)
	return nodes, p.errors
}

type parser struct {
	tokens []Token
	i      int
	errors []ParseError
}

func (p *parser) fail(pos int, text string) { p.errors = append(p.errors, ParseError{pos, text}) }

func (p *parser) peek() (Token, bool) {
	if p.i >= len(p.tokens) {
		return Token{}, false
	}
	return p.tokens[p.i], true
}

func (p *parser) skipSpace() {
	for p.i < len(p.tokens) && p.tokens[p.i].Kind == css.WhitespaceToken {
		p.i++
	}
}

func (p *parser) rules() []*Node {
	var out []*Node
	for {
		t, ok := p.peek()
		if !ok {
			return out
		}
		switch t.Kind {
		case css.WhitespaceToken, css.CDOToken, css.CDCToken:
			p.i++
		case css.AtKeywordToken:
			out = append(out, p.atRule())
		default:
			if n := p.qualified(false); n != nil {
				out = append(out, n)
			}
		}
	}
}

// upTo collects tokens with balanced brackets until a stop kind stands at depth zero; the stop token is not consumed.
func (p *parser) upTo(stops ...Kind) []Token {
	start, depth := p.i, 0
	for p.i < len(p.tokens) {
		k := p.tokens[p.i].Kind
		if depth == 0 {
			for _, s := range stops {
				if k == s {
					return p.tokens[start:p.i]
				}
			}
		}
		switch k {
		case css.LeftBraceToken, css.LeftBracketToken, css.LeftParenthesisToken, css.FunctionToken:
			depth++
		case css.RightBraceToken, css.RightBracketToken, css.RightParenthesisToken:
			if depth > 0 {
				depth--
			}
		}
		p.i++
	}
	return p.tokens[start:p.i]
}

func (p *parser) atRule() *Node {
	t := p.tokens[p.i]
	p.i++
	n := &Node{Kind: AtRule, Name: strings.ToLower(t.Text[1:]), Pos: t.Pos}
	n.Prelude = trim(p.upTo(css.LeftBraceToken, css.SemicolonToken, css.RightBraceToken))
	end, ok := p.peek()
	switch {
	case !ok || end.Kind == css.RightBraceToken:
	case end.Kind == css.SemicolonToken:
		p.i++
	default:
		p.i++
		n.Block = true
		n.Children = p.block(true)
	}
	return n
}

func (p *parser) qualified(nested bool) *Node {
	start := p.tokens[p.i].Pos
	stops := []Kind{css.LeftBraceToken}
	if nested {
		stops = append(stops, css.SemicolonToken, css.RightBraceToken)
	}
	prelude := trim(p.upTo(stops...))
	t, ok := p.peek()
	if !ok || t.Kind != css.LeftBraceToken {
		p.fail(start, "a selector without a block")
		if ok && t.Kind == css.SemicolonToken {
			p.i++
		}
		return nil
	}
	p.i++
	return &Node{Kind: QualifiedRule, Prelude: prelude, Children: p.block(true), Pos: start}
}

// block reads declarations and nested rules up to the closing brace, which it consumes.
func (p *parser) block(braces bool) []*Node {
	var out []*Node
	for {
		t, ok := p.peek()
		if !ok {
			return out
		}
		switch {
		case t.Kind == css.RightBraceToken && braces:
			p.i++
			return out
		case t.Kind == css.WhitespaceToken || t.Kind == css.SemicolonToken:
			p.i++
		case t.Kind == css.AtKeywordToken:
			out = append(out, p.atRule())
		default:
			if n := p.declaration(); n != nil {
				out = append(out, n)
			} else if n := p.qualifiedOrSkip(braces); n != nil {
				out = append(out, n)
			}
		}
	}
}

// qualifiedOrSkip reads a nested rule, or skips a broken declaration up to its semicolon.
func (p *parser) qualifiedOrSkip(braces bool) *Node {
	mark := p.i
	p.upTo(css.LeftBraceToken, css.SemicolonToken, css.RightBraceToken)
	t, ok := p.peek()
	if ok && t.Kind == css.LeftBraceToken && braces {
		p.i = mark
		return p.qualified(true)
	}
	p.fail(p.tokens[mark].Pos, "a declaration that cannot be read: "+Text(p.tokens[mark:p.i]))
	if ok && (t.Kind == css.SemicolonToken || !braces || p.i == mark) {
		p.i++
	}
	return nil
}

// declaration reads "name: value" or restores the position and returns nil.
func (p *parser) declaration() *Node {
	mark := p.i
	name := p.tokens[p.i]
	if name.Kind != css.IdentToken {
		return nil
	}
	p.i++
	p.skipSpace()
	if t, ok := p.peek(); !ok || t.Kind != css.ColonToken {
		p.i = mark
		return nil
	}
	p.i++
	n := &Node{Kind: Declaration, Name: name.Text, Pos: name.Pos}
	custom := strings.HasPrefix(name.Text, "--")
	if !custom {
		n.Name = strings.ToLower(name.Text)
	}
	n.Value = trim(p.upTo(css.SemicolonToken, css.RightBraceToken))
	if !custom && hasBrace(n.Value) { // "a:hover { ... }" is a nested rule, not a declaration
		p.i = mark
		return nil
	}
	if v, ok := cutImportant(n.Value); ok {
		n.Value, n.Important = v, true
	}
	if t, ok := p.peek(); ok && t.Kind == css.SemicolonToken {
		p.i++
	}
	if len(n.Value) == 0 && !custom {
		p.fail(n.Pos, "a declaration without a value: "+n.Name)
		return &Node{Kind: Declaration, Name: "-invalid", Pos: n.Pos}
	}
	return n
}

func cutImportant(v []Token) ([]Token, bool) {
	n := len(v)
	if n < 2 || v[n-1].Kind != css.IdentToken || !v[n-1].Is("important") {
		return v, false
	}
	rest := trim(v[:n-1])
	if len(rest) == 0 || rest[len(rest)-1].Text != "!" {
		return v, false
	}
	return trim(rest[:len(rest)-1]), true
}

func hasBrace(v []Token) bool {
	for _, t := range v {
		if t.Kind == css.LeftBraceToken {
			return true
		}
	}
	return false
}

func trim(v []Token) []Token {
	for len(v) > 0 && v[0].Kind == css.WhitespaceToken {
		v = v[1:]
	}
	for len(v) > 0 && v[len(v)-1].Kind == css.WhitespaceToken {
		v = v[:len(v)-1]
	}
	return v
}

// SplitCommas cuts a token list at its top-level commas and trims the pieces.
func SplitCommas(v []Token) [][]Token {
	var out [][]Token
	depth, start := 0, 0
	for i, t := range v {
		switch t.Kind {
		case css.LeftBraceToken, css.LeftBracketToken, css.LeftParenthesisToken, css.FunctionToken:
			depth++
		case css.RightBraceToken, css.RightBracketToken, css.RightParenthesisToken:
			depth--
		case css.CommaToken:
			if depth == 0 {
				out = append(out, trim(v[start:i]))
				start = i + 1
			}
		}
	}
	return append(out, trim(v[start:]))
}

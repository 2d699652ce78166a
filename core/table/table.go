// Package table reads tables as spreadsheets save them: rows of cells with a line of column names above, as RFC 4180
// has it, with whatever separator and encoding the program that saved them uses.
package table

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"ziegel/core/diag"
)

// Table is a table that was read.
type Table struct {
	Columns  []string
	Rows     [][]string // as many cells as columns
	Lines    []int      // the line at which each row begins, from 1
	Encoding string     // what it was read as when that is not UTF-8
	Comma    rune       // what separates its cells
}

// Read reads a table; file is for messages. Columns may be separated by commas, semicolons or tabs; the encoding is
// UTF-8 or UTF-16, or the Western code page of Windows when it can be neither. A row with more cells than there are
// columns, and quotes that do not close, are errors with their place.
func Read(file string, data []byte) (*Table, error) {
	t := &Table{}
	text, err := t.decode(data)
	if err != nil {
		return nil, problem(file, "", diag.Problem{Position: at(1, 1), Text: err.Error(),
			Expected: "a table of text, as a spreadsheet saves it as CSV"})
	}
	t.Comma = separator(text)
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord = t.Comma, -1
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var wrong *csv.ParseError
		if errors.As(err, &wrong) {
			return nil, quotes(file, text, wrong)
		}
		if err != nil {
			return nil, fmt.Errorf("%s: %w", file, err)
		}
		line, _ := r.FieldPos(0)
		if t.Columns == nil {
			for _, c := range row {
				t.Columns = append(t.Columns, strings.TrimSpace(c))
			}
			continue
		}
		if empty(row) {
			continue
		}
		for len(row) > len(t.Columns) && row[len(row)-1] == "" { // separators behind the last cell
			row = row[:len(row)-1]
		}
		if len(row) > len(t.Columns) {
			lineNo, column := r.FieldPos(len(t.Columns))
			return nil, problem(file, text, diag.Problem{Position: at(lineNo, column),
				Text: fmt.Sprintf("this row has %d cells, and there are %d columns: is a %s part of the text?",
					len(row),
					len(t.Columns), named(t.Comma)),
				Expected: "quotes around a cell that has a " + named(t.Comma) + " in it", Try: `"` +
					row[len(t.Columns)-1] + string(t.Comma) + row[len(t.Columns)] + `"`})
		}
		for len(row) < len(t.Columns) {
			row = append(row, "")
		}
		t.Rows, t.Lines = append(t.Rows, row), append(t.Lines, line)
	}
	if len(t.Rows) == 0 {
		return nil, problem(file, text, diag.Problem{Position: at(1, 1),
			Text:     "there is nothing below the line of column names",
			Expected: "a line of column names, and a row below it"})
	}
	return t, nil
}

// decode gives the text of a file.
func (t *Table) decode(data []byte) (string, error) {
	if rest, ok := bytes.CutPrefix(data, []byte("\xef\xbb\xbf")); ok {
		data = rest
	}
	if bytes.HasPrefix(data, []byte("\xff\xfe")) || bytes.HasPrefix(data, []byte("\xfe\xff")) {
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Bytes(data)
		t.Encoding = "UTF-16"
		return string(out), err
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return "", errors.New("this is no text: is it the file of a spreadsheet itself?")
	}
	if utf8.Valid(data) {
		return string(data), nil
	}
	t.Encoding = "Windows-1252"
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	return string(out), err
}

// separators in the order in which they are preferred.
var separators = []rune{',', ';', '\t'}

// separator is what the first line has most of, outside quotes.
func separator(text string) rune {
	count := map[rune]int{}
	quoted := false
	for _, r := range text {
		switch {
		case r == '"':
			quoted = !quoted
		case quoted:
		case r == '\n':
			return most(count)
		case slices.Contains(separators, r):
			count[r]++
		}
	}
	return most(count)
}

func most(count map[rune]int) rune {
	best := separators[0]
	for _, s := range separators[1:] {
		if count[s] > count[best] {
			best = s
		}
	}
	return best
}

func named(r rune) string {
	return map[rune]string{',': "comma", ';': "semicolon", '\t': "tab"}[r]
}

// quotes words what encoding/csv says of quotes.
func quotes(file, text string, err *csv.ParseError) error {
	line, column := err.Line, max(1, err.Column)
	switch {
	case errors.Is(err.Err, csv.ErrBareQuote):
		return problem(file, text, diag.Problem{Position: at(line, column),
			Text:     "a quote inside a cell that is not quoted",
			Expected: "the whole cell in quotes, and quotes in it twice", Try: `"5"" wide"`})
	case errors.Is(err.Err, csv.ErrQuote):
		return problem(file, text, diag.Problem{Position: at(err.StartLine, column),
			Text:     "the quotes of a cell do not close, or something stands behind them",
			Expected: "quotes around the whole cell, and quotes in it twice", Try: `"5"" wide"`})
	}
	return problem(file, text, diag.Problem{Position: at(line, column), Text: err.Err.Error(),
		Expected: "cells as RFC 4180 has them"})
}

// at is a place in the table that is read.
func at(line, column int) diag.Position { return diag.Position{Line: line, Column: column} }

// problem completes an error in a table: its file, and the line that it shows.
func problem(file, text string, p diag.Problem) error {
	p.File, p.Severity, p.Rule, p.Source, p.Width = file, diag.Error, "bad-table", diag.LineOf(text, p.Line), 1
	return p
}

func empty(row []string) bool {
	return !slices.ContainsFunc(row, func(c string) bool { return strings.TrimSpace(c) != "" })
}

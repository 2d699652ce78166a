package table_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/table"
)

func TestTablesOfAllPrograms(t *testing.T) {
	for name, c := range map[string]struct {
		in, rows, encoding string
		comma              rune
	}{
		"plain":                {"name,text\nInes,Sews\nTomas,Flies\n", "Ines|Sews/Tomas|Flies", "", ','},
		"semicolons":           {"name;price\nInes;1,50\n", "Ines|1,50", "", ';'},
		"tabs":                 {"name\ttext\nInes\ta, b; c\n", "Ines|a, b; c", "", '\t'},
		"a mark of UTF-8":      {"\xef\xbb\xbfname,text\nInes,é\n", "Ines|é", "", ','},
		"UTF-16":               {"\xff\xfen\x00,\x00b\x00\n\x00I\x00,\x00\xe9\x00\n\x00", "I|é", "UTF-16", ','},
		"a code page":          {"name,text\nJos\xe9,caf\xe9 \x96 bar\n", "José|café – bar", "Windows-1252", ','},
		"quotes":               {"name,text\n\"a, b\",\"say \"\"no\"\"\"\n", `a, b|say "no"`, "", ','},
		"lines in a cell":      {"name,text\r\n\"a\r\nb\",c\r\n", "a\nb|c", "", ','},
		"empty rows and cells": {"name,text\n\n,\nInes\nTomas,Flies,,\n", "Ines|/Tomas|Flies", "", ','},
		"a quoted separator":   {"\"a;b;c\",d\n1,2\n", "1|2", "", ','},
	} {
		got, err := table.Read("data/team.csv", []byte(c.in))
		require.NoError(t, err, name)
		var rows []string
		for _, r := range got.Rows {
			rows = append(rows, strings.Join(r, "|"))
		}
		assert.Equal(t, c.rows, strings.Join(rows, "/"), name)
		assert.Equal(t, c.encoding, got.Encoding, name)
		assert.Equal(t, c.comma, got.Comma, name)
	}
}

func TestMistakesInTablesHaveTheirPlace(t *testing.T) {
	for in, want := range map[string]string{
		"name,text\nInes,Sews, and flies\n":     "data/team.csv:2:11: error: this row has 3 cells, and there are 2 columns: is a comma part of the text?",
		"name,text\nInes,5\" wide\n":            "data/team.csv:2:7: error: a quote inside a cell that is not quoted",
		"name,text\nInes,\"Sews\nTomas,Flies\n": "data/team.csv:2:",
		"name,text\nInes,\"Sews\" and flies\n":  "data/team.csv:2:",
		"name,text\n":                           "data/team.csv:1:1: error: there is nothing below the line of column names",
		"":                                      "data/team.csv:1:1: error: there is nothing below",
		"PK\x03\x04\x00\x00":                    "data/team.csv:1:1: error: this is no text: is it the file of a spreadsheet itself?",
		"a;b\n1;2\n3;4;5\n":                     "data/team.csv:3:5: error: this row has 3 cells, and there are 2 columns: is a semicolon part",
	} {
		_, err := table.Read("data/team.csv", []byte(in))
		require.Error(t, err, in)
		assert.Contains(t, err.Error(), want)
	}
}

// FuzzRead: a table that can be read has as many cells in each row as columns, its lines go up, and no text in it is
// broken.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"a,b\n1,2\n", "a;b\n\"1\n2\";3", "\xff\xfea\x00", "\xe9,b\n1,2",
		"a\tb\n\"x\"\t\"\"\n", "\"a,b\n"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := table.Read("x.csv", data)
		if err != nil {
			require.True(t, strings.HasPrefix(err.Error(), "x.csv:"), err.Error())
			return
		}
		require.Equal(t, len(got.Rows), len(got.Lines))
		for i, r := range got.Rows {
			require.Equal(t, len(got.Columns), len(r))
			require.True(t, i == 0 || got.Lines[i] > got.Lines[i-1])
			for _, c := range r {
				require.Equal(t, strings.ToValidUTF8(c, ""), c)
			}
		}
	})
}

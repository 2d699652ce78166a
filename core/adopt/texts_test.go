package adopt

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhatATextIs(t *testing.T) {
	tests := []struct {
		text                      string
		money, figure, date, name bool
	}{
		{text: "€85", money: true},
		{text: "€1,150", money: true},
		{text: "85 €", money: true},
		{text: "€ 4.20", money: true},
		{text: "$19.90", money: true},
		{text: "CHF 25.-", money: true},
		{text: "from €19", money: true},
		{text: "ab 12 €", money: true},
		{text: "120 EUR", money: true},
		{text: "€85 a person"},
		{text: "It costs €85"},
		{text: "412", figure: true},
		{text: "98 %", figure: true},
		{text: "12k", figure: true},
		{text: "3.5×", figure: true},
		{text: "12 weeks in a row"},
		{text: "4 May 2024", date: true},
		{text: "May 4, 2024", date: true},
		{text: "12.06.2024", date: true},
		{text: "2024-06-12", date: true},
		{text: "March 2023", date: true},
		{text: "2019–2022", date: true},
		{text: "17:00", date: true},
		{text: "9:00 to 12:00", date: true},
		{text: "7:30 – 9:00", date: true},
		{text: "8 am", date: true},
		{text: "Porcelaine, 2023"},
		{text: "In May we sail"},
		{text: "Ines Halloran", name: true},
		{text: "Dr. Adaeze Munro", name: true},
		{text: "Ida", name: true},
		{text: "a sentence of words that go on"},
		{text: "Is it warm?"},
	}
	for _, tt := range tests {
		t.Run(tt.text, func(t *testing.T) {
			assert.Equal(t, tt.money, isMoney(tt.text), "an amount")
			if !tt.date && !tt.money {
				assert.Equal(t, tt.figure, isFigure(tt.text), "a figure")
			}
			assert.Equal(t, tt.date, isDate(tt.text), "a date")
			if tt.name {
				assert.True(t, isName(tt.text), "a name")
			}
		})
	}
	assert.False(t, isName("a sentence of words that go on"))
	assert.False(t, isName("Is it warm?"))
	assert.False(t, isName("Four breads, no more, and a very long line of them"))
}

func TestAmountsInTexts(t *testing.T) {
	for text, want := range map[string][]string{
		"A violin: €9,400":      {"A violin", "€9,400"},
		"Eel broth .... €9":     {"Eel broth", "€9"},
		"Bread and butter 6 €":  {"Bread and butter", "6 €"},
		"Kosten: €180, mit Ton": nil,
		"€9":                    nil,
	} {
		m := moneyEnd.FindStringSubmatch(text)
		if want == nil {
			assert.Nil(t, m, text)
			continue
		}
		if assert.NotNil(t, m, text) {
			assert.Equal(t, want, m[1:], text)
		}
	}
	m := moneyStart.FindStringSubmatch("€85 / month")
	assert.Equal(t, []string{"€85", "/ month"}, m[1:])
	assert.Nil(t, moneyStart.FindStringSubmatch("for €85"))
}

func TestNamesOfPagesAndBlocks(t *testing.T) {
	for file, want := range map[string]string{
		"index.html": "home", "about.html": "about", "courses/index.html": "courses", "Über Uns.htm": "ber-uns",
		"a/b/Contact_Us.html": "contact-us", "2024.html": "page-2024", "old\\team.html": "team", "home.html": "home", "x/default.htm": "x",
	} {
		assert.Equal(t, want, nameOf(file), file)
	}
	for s, want := range map[string]string{"Main Menu": "main-menu", "": "block", "--": "block",
		"9lives": "block-9lives", "ok": "ok",
		"a-very-long-name-that-goes-on-and-on-and-on-for-ever": "a-very-long-name-that-goes-on-and-on-and"} {
		assert.Equal(t, want, validName(s, "block"), s)
	}
}

package address_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/address"
	"ziegel/internal/testsite"
)

func TestAddresses(t *testing.T) {
	for text, want := range map[string]address.Address{
		"home":                      {Page: "home"},
		"home/plans":                {Page: "home", Block: "plans"},
		"home/plans.card":           {Page: "home", Block: "plans", Part: "card"},
		"home/plans.card[2]":        {Page: "home", Block: "plans", Part: "card", Index: 2},
		"home/plans.card[odd]":      {Page: "home", Block: "plans", Part: "card", Place: "odd"},
		"home/plans.card.padding":   {Page: "home", Block: "plans", Part: "card", Property: "padding"},
		"home#plans.card":           {Page: "home", Block: "plans", Part: "card"},
		"#plans":                    {Page: "#", Block: "plans"},
		"home/plans.card[2].margin": {Page: "home", Block: "plans", Part: "card", Index: 2, Property: "margin"},
	} {
		got, err := address.Parse(text)
		assert.NoError(t, err, text)
		assert.Equal(t, want, got, text)
		_, err = address.OfBlock(text)
		assert.Equal(t, want.Part != "", err != nil, "%s says more than a block", text)
	}
	for _, text := range []string{"", "/", "home/", "/plans", "home plans", "home/plans/card", "home/plans.",
		"home/plans.card[", "home/plans.card[0]", "home/plans.card[2", "home/plans.Card", "../x", "plans.card", "services.cards.card"} {
		_, err := address.Parse(text)
		assert.ErrorContains(t, err, `"`+text+`"`, text)
	}
}

func TestPagesAndBlocksAreFoundOrNamed(t *testing.T) {
	env := testsite.Demo(t)
	find := func(text string) error {
		a, err := address.Parse(text)
		assert.NoError(t, err)
		page, b, err := address.FindBlock(env, a)
		if err == nil {
			assert.Equal(t, a.Page, page.Name)
			assert.Equal(t, a.Block, b.Name)
		}
		return err
	}
	assert.NoError(t, find("home/plans"))
	assert.NoError(t, find("courses/menu"), "a block on every page is on this one")
	for text, want := range map[string]string{"#plans": "home", "#plans.card[2]": "home", "courses#prices": "courses",
		"#foot": "home"} {
		a, err := address.Parse(text)
		assert.NoError(t, err)
		page, _, err := address.FindBlock(env, a)
		assert.NoError(t, err, text)
		assert.Equal(t, want, page.Name, text)
		in, err := a.In(env)
		assert.NoError(t, err)
		assert.Equal(t, want, in.Page)
	}
	assert.EqualError(t, find("#opening"), `several pages have a block "opening": say courses/opening or home/opening`)
	assert.EqualError(t, find("#nope"), `no page has a block "nope"; write PAGE/BLOCK, such as home/plans`)
	for text, want := range map[string][2]string{"home/plans.items[2].title": {"home/plans", "items[2].title"},
		"#plans.card[2]": {"#/plans", "card[2]"}, "home#plans.card": {"home/plans", "card"}, "home": {"home",
			""}, "home/plans": {"home/plans", ""}} {
		block, inside := address.Inside(text)
		assert.Equal(t, want, [2]string{block, inside}, text)
	}
	assert.EqualError(t, find("hom/plans"), `there is no page "hom"; did you mean home?`)
	assert.EqualError(t, find("home/plan"), `there is no block "plan" on home; did you mean plans?`)
	assert.EqualError(t, find("home"), "home is a page; name a block on it, such as home/opening")
	assert.Equal(t, []string{"menu", "opening", "reasons", "plans", "voices", "foot"},
		address.BlockNames(env, env.Site.Page("home")))
}

func TestPairs(t *testing.T) {
	got, err := address.Pairs([]string{"a=b", "c=", "d=e=f", "media.file at phone=x"})
	assert.NoError(t, err)
	assert.Equal(t, [][2]string{{"a", "b"}, {"c", ""}, {"d", "e=f"}, {"media.file at phone", "x"}}, got)
	for _, bad := range []string{"a", "=b", ""} {
		_, err := address.Pairs([]string{bad})
		assert.Error(t, err, bad)
	}
}

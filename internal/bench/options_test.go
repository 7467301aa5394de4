package bench

import (
	"slices"
	"testing"
)

func TestOptionsAreReadAsTheyAreTyped(t *testing.T) {
	for text, want := range map[string]Options{
		"":                             {},
		" ; ":                          {},
		"blur = 2 px":                  {{"blur", "2", "px"}},
		"blur=2px; grey level = 4":     {{"blur", "2", "px"}, {"grey level", "4", ""}},
		"edges = soft":                 {{"edges", "soft", ""}},
		"edges = soft [px]":            {{"edges", "soft", "px"}},
		"blur = 1,5 px; mode = twice ": {{"blur", "1,5", "px"}, {"mode", "twice", ""}},
		"heat = -4 °C":                 {{"heat", "-4", "°C"}},
		"blur = 2 px []":               {{"blur", "2 px", ""}},
		"twice as = 2 = 3":             {{"twice as", "2 = 3", ""}},
	} {
		got, err := ParseOptions(text)
		if err != nil || !slices.Equal(got, want) {
			t.Errorf("%q: %+v, want %+v (%v)", text, got, want, err)
		}
	}
	for _, text := range []string{"blur", "= 2", "blur = 2; grey"} {
		if got, err := ParseOptions(text); err == nil {
			t.Errorf("%q was read as %+v", text, got)
		}
	}
}

func FuzzOptions(f *testing.F) {
	f.Add("blur = 2 px; edges = soft [px]")
	f.Add("a = 1 [x]; b = ]")
	f.Fuzz(func(t *testing.T, text string) {
		got, err := ParseOptions(text)
		if err != nil {
			return
		}
		once := got.Text()
		again, err := ParseOptions(once)
		if err != nil || len(again) != len(got) {
			t.Fatalf("%q became %q, which is read as %+v (%v)", text, once, again, err)
		}
		if twice := again.Text(); twice != once {
			t.Fatalf("%q is written %q, and then %q", text, once, twice)
		}
	})
}

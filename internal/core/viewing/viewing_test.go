package viewing

import (
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestAViewSaysAllThatItNeeds(t *testing.T) {
	whole := View{Station: "in_hand", Stage: "raw", Light: "daylight"}
	loupe := View{Station: "loupe", Magnification: quantity.Ptr(5.0), Stage: "primed", Light: "a lamp"}
	for _, v := range []View{whole, loupe} {
		if err := v.Check(); err != nil {
			t.Errorf("%+v: %v", v, err)
		}
	}
	for name, spoil := range map[string]func(*View){
		"light":         func(v *View) { v.Light = "  " },
		"station":       func(v *View) { v.Station = "the moon" },
		"stage":         func(v *View) { v.Stage = "raw, washed" },
		"magnification": func(v *View) { v.Magnification = quantity.Ptr(3.0) },
	} {
		v := whole
		spoil(&v)
		if err := v.Check(); err == nil || !strings.Contains(err.Error(), name) {
			t.Errorf("%s: %v", name, err)
		}
	}
	loupe.Magnification = nil
	if loupe.Check() == nil {
		t.Error("a loupe without a magnification was taken")
	}
}

func TestStationsInWordsAreApart(t *testing.T) {
	seen := []string{}
	for _, s := range Stations {
		seen = append(seen, View{Station: s, Magnification: quantity.Ptr(2.5)}.StationWords())
	}
	if want := []string{"on the table", "at arm's length", "in hand", "under a loupe of 2.5 ×"}; !slices.Equal(seen, want) {
		t.Errorf("%q", seen)
	}
}

func TestStagesFollowTheSurface(t *testing.T) {
	shuffled := []string{"painted", "raw", "cured", "primed", "washed", "varnished"}
	slices.SortFunc(shuffled, CompareStages)
	if !slices.Equal(shuffled, Stages) {
		t.Errorf("%q", shuffled)
	}
}

func TestFromHowFarEachStationSees(t *testing.T) {
	ten := 10.0
	for want, v := range map[float64]View{1000: {Station: "table"}, 600: {Station: "arms_length"}, 300: {Station: "in_hand"}, 25: {Station: "loupe", Magnification: &ten}} {
		if got := v.DistanceMM(); got != want {
			t.Errorf("%s: %v mm, want %v", v.Station, got, want)
		}
	}
}

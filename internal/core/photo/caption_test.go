package photo

import (
	"reflect"
	"testing"
)

func TestCaptionsSayWhatDiffers(t *testing.T) {
	facts := func(machine, stage, light string) []Fact {
		return []Fact{{"Machine", machine}, {"Stage", stage}, {"Light", light}, {"Note", ""}}
	}
	common, differing := Differing([][]Fact{facts("one", "raw", "a lamp"), facts("two", "raw", ""), facts("one", "raw", "a lamp")})
	if want := []Fact{{"Stage", "raw"}}; !reflect.DeepEqual(common, want) {
		t.Errorf("%v", common)
	}
	if want := []Fact{{"Machine", "two"}, {"Light", "not known"}}; !reflect.DeepEqual(differing[1], want) || len(differing[0]) != 2 {
		t.Errorf("%v", differing)
	}
	if common, differing := Differing(nil); len(common) != 0 || len(differing) != 0 {
		t.Error("no photographs have facts")
	}
}

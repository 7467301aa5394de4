package edition

import (
	"reflect"
	"testing"
)

func TestWhatReadsOtherwise(t *testing.T) {
	was := []Figure{{"a", "1 %"}, {"b", "2 mm"}, {"c", "3"}}
	if got := Changes(was, was); len(got) != 0 {
		t.Errorf("%v", got)
	}
	got := Changes(was, []Figure{{"d", "4"}, {"c", "3"}, {"a", "1.5 %"}})
	if want := []Change{{"a", "1 %", "1.5 %"}, {"b", "2 mm", ""}}; !reflect.DeepEqual(got, want) {
		t.Errorf("%v, not %v", got, want)
	}
}

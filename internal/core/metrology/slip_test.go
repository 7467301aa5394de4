package metrology

import (
	"strings"
	"testing"
)

func TestASlipIsAskedAboutByUnitsNominalAndOthers(t *testing.T) {
	like := []float64{14.02, 14.05, 13.98, 14.01, 14.04, 14.00}
	for _, c := range []struct {
		value, nominal float64
		others         []float64
		says           string
	}{
		{14.05, 14, nil, ""},
		{15.12, 14, nil, "off by 1.12 mm"}, // 8 %
		{14.9, 14, nil, ""},
		{12.1, 1.2, nil, "a tenth of it"},
		{1.2, 12, nil, "ten times as much"},
		{0.55, 14, nil, "inches"},
		{14020, 14, nil, "micrometres"},
		{3.4, 3, nil, "off by 0.4 mm"},
		{3.25, 3, nil, ""},
		{101.4, 100, nil, ""},
		{101.6, 100, nil, "off by 1.6 mm"},
		{14.3, 14, like, "the 6 others of this feature lie about 14.01"},
		{14.1, 14, like, ""},
		{14.3, 14, like[:4], ""},
		{14.3, 14, []float64{14.2, 13.7, 14.4, 13.8, 14.1}, ""},
		{14.3, 14, []float64{14, 14, 14, 14, 14, 14}, "where the 6 others"},
		{14.05, 14, []float64{14, 14, 14, 14, 14, 14}, ""},
	} {
		got := Slip(c.value, c.nominal, c.others)
		if (c.says == "") != (got == "") || !strings.Contains(got, c.says) {
			t.Errorf("%v for %v among %v: %q, want %q", c.value, c.nominal, c.others, got, c.says)
		}
	}
}

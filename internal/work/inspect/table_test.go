package inspect

import (
	"strings"
	"testing"
)

func TestTablesOfReadingsAreReadAsPeopleKeepThem(t *testing.T) {
	for name, text := range map[string]string{
		"comma":     "specimen,feature,value_mm,note\nS-001-01,Width,20.05,x\nS-001-02,Width,,",
		"semicolon": "Specimen;Feature;Value_mm;note\nS-001-01;Width;20,05;x\nS-001-02;Width;;",
		"tab":       "\ufefffeature\tspecimen\tvalue_mm\tnote\nWidth\tS-001-01\t20.05\tx\nWidth\tS-001-02\t\t",
		"quoted":    "specimen,feature,value_mm,note\r\n\"S-001-01\",\"Width\",\"20,05\",x\r\nS-001-02,Width,,\r\n",
	} {
		rows, left, err := parseTable(text)
		if err != nil || len(rows) != 2 || len(left) != 1 || left[0] != "note" {
			t.Fatalf("%s: %+v %v %v", name, rows, left, err)
		}
		v, err := number(rows[0].value)
		if rows[0].specimen != "S-001-01" || rows[0].feature != "Width" || rows[0].line != 2 || err != nil || *v != 20.05 || rows[1].value != "" {
			t.Errorf("%s: %+v %v", name, rows, err)
		}
	}
	for text, says := range map[string]string{
		"": "is empty", "specimen,feature\na,b": "lacks a column", "code,feature,value_mm\na,b,1": "lacks a column",
		"specimen,feature,value_mm\n" + strings.Repeat("a,b,1\n", mostRows+1): "more than",
	} {
		if _, _, err := parseTable(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%.40q: %v", text, err)
		}
	}
	for _, cell := range []string{"x", "-1", "0", "Inf", "NaN", "1,2,3"} {
		if v, err := number(cell); err == nil {
			t.Errorf("%q is %v", cell, *v)
		}
	}
	if yes, err := truth("Yes"); err != nil || !*yes {
		t.Error("yes is not true")
	}
	if _, err := truth("perhaps"); err == nil {
		t.Error("perhaps is an answer")
	}
}

func FuzzParseTable(f *testing.F) {
	f.Add("specimen,feature,value_mm\nS-001-01,Width,20.05\n")
	f.Add("specimen;feature;rung_mm;intact\nS-001-01;Pins;0,2;yes\n\"")
	f.Add("\ufeffspecimen\tfeature\tstate\n\x00\t\t\n")
	f.Fuzz(func(t *testing.T, text string) {
		rows, _, err := parseTable(text)
		for _, r := range rows {
			if r.line < 1 {
				t.Errorf("a row of line %d", r.line)
			}
		}
		if err != nil && len(rows) > 0 {
			t.Error("rows of a table that was refused")
		}
	})
}

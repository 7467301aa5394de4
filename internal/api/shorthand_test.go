package api

import (
	"net/http"
	"strings"
	"testing"
)

func TestALineOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	at, _, _ := b.judgedWhole()
	machine := b.want(http.MethodGet, at, "")["machine"].(map[string]any)
	name := machine["name"].(string)
	for text, want := range map[string]string{"": "begins like nothing", "top up 60 on Nobody": "names no machine", "top up 60 on " + name: "nothing does"} {
		if status, said := b.call(http.MethodPost, "/api/v1/line-meanings", `{"text":"`+text+`"}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "text") || !strings.Contains(said["detail"].(string), want) {
			t.Errorf("%q: %d %v", text, status, said)
		}
	}
	meant := b.want(http.MethodPost, "/api/v1/line-meanings", `{"text":"relevel `+name+` closer"}`)
	if meant["about"] != "machine" || meant["id"] != machine["id"] || meant["says"] != name+": relevelled, now; note: closer." {
		t.Errorf("%v", meant)
	}
	keep := func(says string) string { return `{"text":"relevel ` + name + ` closer","says":"` + says + `"}` }
	if status, said := b.call(http.MethodPost, "/api/v1/lines", keep("another thing")); status != http.StatusConflict || !strings.Contains(said["detail"].(string), "now means") {
		t.Errorf("another meaning: %d %v", status, said)
	}
	b.want(http.MethodPost, "/api/v1/lines", keep(meant["says"].(string)))
	if cords := b.list("/api/v1/bench"); strings.Count(cords, `"note":"closer"`) != 1 {
		t.Errorf("%.2000s", cords)
	}
}

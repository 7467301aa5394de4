package api

import (
	"net/http"
	"strings"
	"testing"
)

func TestTablesOverHTTP(t *testing.T) {
	b := serveEmpty(t)
	asked := b.want(http.MethodGet, "/api/v1/tables/resins", "")
	if asked["title"] != "Resins and bottles" || len(asked["columns"].([]any)) < 10 {
		t.Errorf("%v", asked)
	}
	for path, method := range map[string]string{"tables/spoons": http.MethodGet, "table-files/spoons.csv": http.MethodGet} {
		if status, said := b.call(method, "/api/v1/"+path, ""); status != http.StatusNotFound {
			t.Errorf("%s: %d %v", path, status, said)
		}
	}
	read := b.want(http.MethodPost, "/api/v1/table-texts/resins", `{"text":"Name\tList price\tSold by, ml\tShelf\nSlate\t32,5\t1000\ttop\n"}`)
	if columns := read["columns"].([]any); len(columns) != 3 || columns[2] != "bottle_ml" || read["left"].([]any)[0] != "Shelf" {
		t.Errorf("%v", read)
	}
	if status, said := b.call(http.MethodPost, "/api/v1/table-texts/resins", `{"text":"\n"}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "text") {
		t.Errorf("an empty text: %d %v", status, said)
	}
	rows := `{"columns":["name","price_list","bottle_ml"],"rows":[["Slate","32,5","1000"],["Dune","free","500"]]}`
	if seen := b.want(http.MethodPost, "/api/v1/table-looks/resins", rows); seen["kept"] != 1.0 || seen["refused"] != 1.0 {
		t.Errorf("%v", seen)
	}
	if list := b.list("/api/v1/resins"); strings.Contains(list, "Slate") {
		t.Errorf("a look kept something: %s", list)
	}
	b.want(http.MethodPost, "/api/v1/tables/resins", rows)
	if list := b.list("/api/v1/resins"); !strings.Contains(list, "Slate") || strings.Contains(list, "Dune") {
		t.Errorf("%s", list)
	}
	if status, said := b.call(http.MethodPost, "/api/v1/tables/resins", `{"columns":["taste"],"rows":[["sweet"]]}`); status != http.StatusUnprocessableEntity || !strings.HasSuffix(location(said), "columns[0]") {
		t.Errorf("a column that is none: %d %v", status, said)
	}
	long := strings.Repeat("x", 15_000)
	if seen := b.want(http.MethodPost, "/api/v1/table-looks/machines", `{"columns":["name","notes"],"rows":[["Tarn","`+long+`"]]}`); seen["refused"] != 1.0 {
		t.Errorf("a long note is a cell like any other: %v", seen)
	}
}

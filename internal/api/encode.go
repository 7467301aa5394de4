package api

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"
)

// encode turns an answer into JSON before its status is sent, so that one that
// cannot be encoded becomes a problem document and no broken connection.
func encode(ctx huma.Context, _ string, v any) (any, error) {
	text, err := json.Marshal(v)
	var beyond *json.UnsupportedValueError
	if errors.As(err, &beyond) && ctx.Method() == http.MethodGet {
		clean, left := finite(v)
		slog.Warn("numbers on record cannot be shown; ojime check names the entries", "path", ctx.URL().Path, "where", left)
		ctx.SetHeader(leftOutHeader, strconv.Itoa(len(left)))
		text, err = json.Marshal(clean)
	}
	if err == nil {
		return json.RawMessage(text), nil
	}
	made := unknown(fmt.Errorf("encode the answer to %s %s: %w", ctx.Method(), ctx.URL().Path, err))
	text, err = json.Marshal(made)
	if carrier, ok := ctx.(*echoContext); ok {
		carrier.broken = made.Status
		ctx.SetHeader("Content-Type", "application/problem+json")
	}
	return json.RawMessage(text), err
}

// leftOutHeader counts the numbers of an answer that could not be shown.
const leftOutHeader = "Ojime-Left-Out"

// encoded writes what encode made, and reads bodies.
var encoded = huma.Format{
	Marshal: func(w io.Writer, v any) error {
		if text, ok := v.(json.RawMessage); ok {
			_, err := w.Write(text)
			return err
		}
		return json.NewEncoder(w).Encode(v)
	},
	Unmarshal: json.Unmarshal,
}

//go:build js && wasm

// Command recordwasm is package record as a WebAssembly module for the page.
// It sets the function exactflaskJudge, which takes a request and returns an
// answer, both JSON texts.
package main

import (
	"syscall/js"

	"exactflask/record"
)

func main() {
	js.Global().Set("exactflaskJudge", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return string(record.JudgeJSON([]byte(args[0].String())))
	}))
	select {} // the function stays callable
}

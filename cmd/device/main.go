//go:build js && wasm

// Command device is package device as a WebAssembly module for the page. It
// sets the function exactflaskJudge, which takes a request and returns an
// answer, both JSON texts.
package main

import (
	"syscall/js"

	"exactflask/device"
)

func main() {
	var judge device.Judge
	js.Global().Set("exactflaskJudge", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return string(judge.JSON([]byte(args[0].String())))
	}))
	select {} // the function stays callable
}

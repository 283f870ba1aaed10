"use client";
import { Component, type ReactNode } from "react";

/** Keeps a fault in one drawing from taking the desk with it. */
export class InstrumentBoundary extends Component<{ name: string; children: ReactNode }, { fault: string | null }> {
  override state = { fault: null };
  static getDerivedStateFromError(error: Error) {
    return { fault: error.message };
  }
  override render() {
    if (this.state.fault === null) return this.props.children;
    return (
      <p role="alert" style={{ padding: 16 }}>
        {this.props.name} cannot be drawn: {this.state.fault}{" "}
        <button type="button" onClick={() => this.setState({ fault: null })}>
          Try again
        </button>
      </p>
    );
  }
}

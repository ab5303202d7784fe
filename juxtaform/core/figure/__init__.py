"""Who a figure is: its picture laid over the references and compared place by place; and where it stands."""
